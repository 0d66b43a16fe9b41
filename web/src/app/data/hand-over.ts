/** Hands a file to the person as a download. */
export function handOver(file: Blob, name: string): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(file);
  link.download = name;
  link.click();
  // The browser reads it after this turn.
  setTimeout(() => URL.revokeObjectURL(link.href), 60_000);
}

/** A file's name from a title: small letters, digits and dashes. */
export function fileNameOf(title: string, ending: string): string {
  return `${title.replace(/[^\p{L}\p{N}]+/gu, '-').toLowerCase()}.${ending}`;
}
