/** The browser's build of pdfmake carries no types of its own; what is used of it is typed where it is used. */
declare module 'pdfmake/build/pdfmake.min.js' {
  const pdfMake: unknown;
  export default pdfMake;
}
