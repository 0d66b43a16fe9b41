/**
 * How Chromium is told that its microphone hears a file.
 * @param {string} path
 */
export function microphoneOf(path) {
  return [
    '--use-fake-ui-for-media-stream',
    '--use-fake-device-for-media-stream',
    `--use-file-for-fake-audio-capture=${path}`,
  ];
}

/**
 * Opens the microphone with the press that records, so that the take begins where the file does.
 * @param {import('@playwright/test').Page} page
 */
export async function pressRecord(page) {
  await page
    .getByRole('button', { name: /^Record/u })
    .first()
    .click();
  await page.getByLabel('Count-in').selectOption('none');
  await page.locator('vc-record-panel').getByRole('button', { name: 'Record', exact: true }).click();
}
