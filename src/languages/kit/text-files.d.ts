/** Files of a language, taken into the program as text. */
declare module '*.go' {
  const text: string;
  export default text;
}
