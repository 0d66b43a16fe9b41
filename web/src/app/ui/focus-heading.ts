/** Pages load what they show: the heading is waited for so long. Units: milliseconds (our own). */
const WAIT_MS = 5000;

let waiting: { readonly observer: MutationObserver; readonly timer: ReturnType<typeof setTimeout> } | null =
  null;

/**
 * Puts the focus on the heading of a page that was just opened, as soon as it is there, so that keyboard and screen
 * reader go on where the page begins.
 * Shape:  whoever already works in the page or in a dialog is left there
 */
export function focusHeading(main: HTMLElement | null): void {
  stopWaiting();
  if (!main || take(main)) return;
  const observer = new MutationObserver(() => {
    if (take(main)) stopWaiting();
  });
  observer.observe(main, { childList: true, subtree: true });
  waiting = { observer, timer: setTimeout(stopWaiting, WAIT_MS) };
}

function stopWaiting(): void {
  waiting?.observer.disconnect();
  if (waiting) clearTimeout(waiting.timer);
  waiting = null;
}

/** Whether the heading is there; it is focused unless somebody already works in the page or in a dialog. */
function take(main: HTMLElement): boolean {
  const heading = main.querySelector<HTMLElement>('h1');
  if (!heading) return false;
  const here = document.activeElement;
  const isBusy = here !== null && (main.contains(here) || here.closest('[role="dialog"]') !== null);
  if (!isBusy) {
    heading.tabIndex = -1;
    heading.focus({ preventScroll: true });
  }
  return true;
}
