/** The faces that every page begins with. */
const FACES = [
  '400 16px "Atkinson Hyperlegible Next"',
  '600 16px "Atkinson Hyperlegible Next"',
  '700 16px "Atkinson Hyperlegible Next"',
  '400 16px "Atkinson Hyperlegible Mono"',
  '700 32px "Bricolage Grotesque Variable"',
];
/** A slow line shows the page in its own letters rather than nothing. Units: milliseconds (our own). */
const MOST_MS = 800;

/** Waits until the letters of the page are there, so that no line breaks anew under the eye. */
export async function pageFonts(): Promise<void> {
  const loaded = Promise.all(FACES.map((face) => document.fonts.load(face).catch(() => [])));
  await Promise.race([loaded, new Promise((done) => setTimeout(done, MOST_MS))]);
}
