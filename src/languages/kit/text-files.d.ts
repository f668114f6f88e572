/** Files of a language, taken into the program as text. */
declare module '*.go' {
  const text: string;
  export default text;
}
declare module '*.py' {
  const text: string;
  export default text;
}
declare module '*.rs' {
  const text: string;
  export default text;
}
declare module '*.java' {
  const text: string;
  export default text;
}
declare module '*.kt' {
  const text: string;
  export default text;
}
declare module '*.scala' {
  const text: string;
  export default text;
}
declare module '*.cs' {
  const text: string;
  export default text;
}
declare module '*.php' {
  const text: string;
  export default text;
}
declare module '*.R' {
  const text: string;
  export default text;
}
declare module '*.rb' {
  const text: string;
  export default text;
}
declare module '*.cpp' {
  const text: string;
  export default text;
}
declare module '*.text' {
  const text: string;
  export default text;
}
declare module '*.toml' {
  const text: string;
  export default text;
}
declare module '*.hpp' {
  const text: string;
  export default text;
}
declare module '*.swift' {
  const text: string;
  export default text;
}
