/** Whether a key belongs to a field, dialog or menu and must not be taken as a shortcut. */
export function isTyping(event: KeyboardEvent): boolean {
  if (event.ctrlKey || event.metaKey || event.altKey || event.defaultPrevented) return true;
  const target = event.target;
  if (!(target instanceof HTMLElement)) return false;
  if (target.closest('.p-dialog, .p-menu, .p-select-overlay') !== null) return true;
  return (
    target.isContentEditable ||
    /^(INPUT|TEXTAREA|SELECT)$/u.test(target.tagName) ||
    target.getAttribute('role') === 'combobox'
  );
}
