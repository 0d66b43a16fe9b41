/** Pictures of pages that wait for the printer; the style sheet shows them on paper only, and nothing beside them. */
const CLASS = 'print-pages';

/**
 * Asks the browser to print pictures of pages, each on a sheet of its own, instead of what is on the screen.
 * Errors: rejects where a picture cannot be read
 */
export async function printPages(pages: readonly Blob[]): Promise<void> {
  for (const left of document.querySelectorAll(`.${CLASS}`)) left.remove();
  const stack = document.createElement('div');
  stack.className = CLASS;
  stack.setAttribute('aria-hidden', 'true');
  const addresses = pages.map((page) => URL.createObjectURL(page));
  const pictures = addresses.map((address) => {
    const picture = new Image();
    picture.src = address;
    picture.alt = '';
    return picture;
  });
  stack.append(...pictures);
  document.body.append(stack);
  // A phone prints after this call has returned, so the pages stay until it says that it is done.
  const clear = (): void => {
    stack.remove();
    for (const address of addresses) URL.revokeObjectURL(address);
  };
  try {
    await Promise.all(pictures.map((picture) => picture.decode()));
  } catch (error) {
    clear();
    throw error;
  }
  window.addEventListener('afterprint', clear, { once: true });
  window.print();
}
