# Fish completion of skevo; for every shell: skevo completion fish > ~/.config/fish/completions/skevo.fish
function __skevo_found
    set --global __skevo_candidates (skevo completion --for fish (commandline --cut-at-cursor | string collect) 2>/dev/null)
    test (count $__skevo_candidates) -gt 0
end
# Where nothing is found, files may stand.
complete --command skevo --no-files --condition __skevo_found --arguments '(printf "%s\n" $__skevo_candidates)'
