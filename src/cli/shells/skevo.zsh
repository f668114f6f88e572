#compdef skevo
# Zsh completion of skevo; for every shell, in a folder of $fpath: skevo completion zsh > ~/.zfunc/_skevo
_skevo() {
  local -a found
  found=("${(@f)$(skevo completion --for zsh "${(j: :)words[1,CURRENT]}" 2> /dev/null)}")
  if [[ -n "${found[1]}" ]]; then
    _describe 'skevo' found
  else
    _files
  fi
}
compdef _skevo skevo
