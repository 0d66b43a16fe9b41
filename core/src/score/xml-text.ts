/** Text made safe to stand in XML: what it cannot hold becomes a space. Source: XML 1.0, 2.2 and 2.4 */
export function xmlText(text: string): string {
  return text
    .replaceAll('&', '&amp;')
    .replaceAll('<', '&lt;')
    .replaceAll('>', '&gt;')
    .replaceAll('"', '&quot;')
    .replace(/[^\p{L}\p{N}\p{P}\p{S}\p{Zs}\p{M}]/gu, ' ');
}
