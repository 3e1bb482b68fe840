/** Shells whose completion is known. */
export const SHELLS = ['bash', 'zsh', 'powershell'] as const
export type Shell = (typeof SHELLS)[number]

/** What a shell runs so that it completes calls of the program: each asks the program itself for words. */
export const SCRIPTS: Readonly<Record<Shell, string>> = {
  bash: `# anagnosis: completion for bash. To have it in each shell:
#   anagnosis completion bash >> ~/.bashrc
_anagnosis_words() {
  local IFS=$'\\n'
  COMPREPLY=($(anagnosis completion words -- "\${COMP_WORDS[@]:1:COMP_CWORD}" 2>/dev/null))
}
complete -o default -o bashdefault -F _anagnosis_words anagnosis
`,
  zsh: `#compdef anagnosis
# anagnosis: completion for zsh. To have it in each shell, behind compinit:
#   anagnosis completion zsh >> ~/.zshrc
_anagnosis_words() {
  local -a found
  found=("\${(@f)$(anagnosis completion words -- "\${(@)words[2,CURRENT]}" 2>/dev/null)}")
  found=(\${found:#})
  if (( \${#found} )); then compadd -Q -- "\${(@q)found}"; else _files; fi
}
compdef _anagnosis_words anagnosis
`,
  powershell: `# anagnosis: completion for PowerShell. To have it in each shell:
#   anagnosis completion powershell >> $PROFILE
Register-ArgumentCompleter -Native -CommandName anagnosis -ScriptBlock {
  param($wordToComplete, $commandAst, $cursorPosition)
  $given = @($commandAst.CommandElements | Select-Object -Skip 1 | ForEach-Object { "$_" })
  if ($wordToComplete -eq '') { $given += '' }
  anagnosis completion words '--' @given 2>$null | ForEach-Object {
    $text = if ($_ -match '\\s') { "'$_'" } else { $_ }
    [System.Management.Automation.CompletionResult]::new($text, $_, 'ParameterValue', $_)
  }
}
`,
}
