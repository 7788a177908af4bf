/** Leads the cursor to a field by its path: opens what hides it, scrolls to it, puts the cursor in. False where it is not on the page. */
export function toField(path: string, within: ParentNode = document): boolean {
  const place = within.querySelector<HTMLElement>(`[data-field="${CSS.escape(path)}"]`);
  if (!place) return false;
  for (let hidden = place.closest('details'); hidden; hidden = hidden.parentElement?.closest('details') ?? null)
    hidden.open = true;
  place.scrollIntoView({ block: 'center' });
  const field = place.matches('input, select, textarea, button')
    ? place
    : place.querySelector<HTMLElement>('input, select, textarea, button');
  field?.focus();
  return field !== null;
}
