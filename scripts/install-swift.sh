#!/usr/bin/env bash
# A Swift compiler on Debian and its relatives, of which Debian 12 has none: the packages of the next release are unpacked beside
# the system, with a loader and libraries of their own, and what they build names these. Needs patchelf.
set -euo pipefail

[ "$(dpkg --print-architecture)" = amd64 ] || { echo 'Swift: see swift.org/install; this takes the packages of amd64' >&2; exit 0; }

root=/opt/skevo-swift
release=trixie
version=6.0.3-2

sudo=()
if [ "$(id -u)" -ne 0 ]; then sudo=(sudo); fi
work=$(mktemp -d)
trap 'rm -rf "$work"' EXIT
mkdir -p "$work"/lists/partial "$work"/cache/archives/partial
: > "$work/status"

# The mirror that this machine takes its packages from.
mirror=$(apt-get indextargets --format '$(REPO_URI)' 'Created-By: Packages' | grep -v security | sed -n 1p)
echo "deb $mirror $release main" > "$work/sources.list"
apt=(
  apt-get -qq
  -o "Dir::Etc::SourceList=$work/sources.list" -o Dir::Etc::SourceParts=-
  -o "Dir::State::Lists=$work/lists" -o "Dir::State::status=$work/status" -o "Dir::Cache=$work/cache"
  -o APT::Sandbox::User=root -o APT::Install-Recommends=false
)
"${apt[@]}" update
"${apt[@]}" --yes --download-only install "swiftlang=$version" "libswiftlang=$version" libc6-dev libstdc++-14-dev
"${sudo[@]}" mkdir -p "$root/usr/lib" "$root/usr/lib64" "$root/usr/bin" "$root/usr/sbin"
for folder in lib lib64 bin sbin; do "${sudo[@]}" ln -sfn "usr/$folder" "$root/$folder"; done
for package in "$work"/cache/archives/*.deb; do
  dpkg-deb --fsys-tarfile "$package" | "${sudo[@]}" tar -x --keep-directory-symlink -C "$root"
done

loader=$root/lib64/ld-linux-x86-64.so.2
swift=$root/usr/libexec/swift
libraries=$root/usr/lib/x86_64-linux-gnu:$swift/lib/swift/linux
for program in swift-frontend swift-driver clang-17 lld swift-format; do
  "${sudo[@]}" patchelf --set-interpreter "$loader" --force-rpath --set-rpath "$libraries:$swift/lib/swift/host" "$swift/bin/$program"
done
for library in "$swift"/lib/swift/linux/*.so; do
  "${sudo[@]}" patchelf --force-rpath --set-rpath "$libraries" "$library"
done

# Without it the driver warns that it knows nothing of this root.
echo '{"Version":"1.0","CanonicalName":"linux","VersionMap":{}}' | "${sudo[@]}" tee "$root/SDKSettings.json" > /dev/null
"${sudo[@]}" ln -sf "$swift/bin/swift-format" /usr/local/bin/swift-format
"${sudo[@]}" tee /usr/local/bin/swiftc > /dev/null << END
#!/bin/sh
case "\$1" in --version) exec $swift/bin/swiftc --version ;; esac
exec $swift/bin/swiftc -sdk $root -use-ld=lld -Xclang-linker --sysroot=$root \\
  -Xlinker --dynamic-linker=$loader -Xlinker --disable-new-dtags -Xlinker -rpath=$libraries "\$@"
END
"${sudo[@]}" chmod +x /usr/local/bin/swiftc
swiftc --version
