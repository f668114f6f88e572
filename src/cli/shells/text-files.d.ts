declare module '*.bash' {
  const text: string;
  export default text;
}
declare module '*.zsh' {
  const text: string;
  export default text;
}
declare module '*.fish' {
  const text: string;
  export default text;
}
