declare module '*.scss?inline' {
  const css: string;
  export default css;
}
