#!/usr/bin/env bash
# Installs the compilers of Kotlin and Scala from Maven, laid out as their own distributions are: programs in bin, jars in lib.
set -euo pipefail

cd "$(dirname "$0")/jvm"
sudo=()
if [ "$(id -u)" -ne 0 ]; then sudo=(sudo); fi

# install NAME MAIN JVM_OPTION...: a compiler NAME in /opt/skevo-LANGUAGE, whose program is the class MAIN.
install() {
  local language=$1 name=$2 main=$3
  shift 3
  local home=/opt/skevo-$language fetched
  if cmp --silent "$language.xml" "$home/pom.xml"; then return; fi
  fetched=$(mktemp -d)
  mkdir "$fetched/bin" "$fetched/lib"
  mvn --quiet --batch-mode --file "$language.xml" \
    org.apache.maven.plugins:maven-dependency-plugin:3.9.0:copy-dependencies "-DoutputDirectory=$fetched/lib" < /dev/null
  for plugin in "$fetched"/lib/kotlin-serialization-compiler-plugin-*.jar; do
    if [ -e "$plugin" ]; then mv "$plugin" "$fetched/lib/kotlinx-serialization-compiler-plugin.jar"; fi
  done
  cat > "$fetched/bin/$name" << END
#!/usr/bin/env bash
# Options that begin with -J are for the JVM.
jvm=($*)
given=()
for each in "\$@"; do
  if [[ \$each == -J* ]]; then jvm+=("\${each#-J}"); else given+=("\$each"); fi
done
exec java "\${jvm[@]}" -cp '$home/lib/*' $main "\${given[@]}"
END
  chmod 755 "$fetched" "$fetched/bin/$name"
  cp "$language.xml" "$fetched/pom.xml"
  "${sudo[@]}" rm -rf "$home"
  "${sudo[@]}" mv "$fetched" "$home"
  "${sudo[@]}" ln -sf "$home/bin/$name" "/usr/local/bin/$name"
}

install kotlin kotlinc org.jetbrains.kotlin.cli.jvm.K2JVMCompiler -Xss4m
install scala scalac dotty.tools.dotc.Main -Xss16m
