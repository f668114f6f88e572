# Bash completion of skevo; for every shell: skevo completion bash > ~/.local/share/bash-completion/completions/skevo
_skevo() {
  local line="${COMP_LINE:0:COMP_POINT}" typed before each
  # Bash takes some signs for ends of words, and replaces what stands behind the last of them.
  typed="${line##*[[:space:]]}"
  before="${typed%"${COMP_WORDS[COMP_CWORD]}"}"
  [[ "${COMP_WORDS[COMP_CWORD]}" == [:=] ]] && before="$typed"
  COMPREPLY=()
  while IFS= read -r each; do
    [[ -n "$each" ]] && COMPREPLY+=("${each#"$before"}")
  done < <(skevo completion --for bash "$line" 2> /dev/null)
  case "${COMPREPLY[0]}" in
    *=) compopt -o nospace ;;
  esac
}
complete -o default -o bashdefault -F _skevo skevo
