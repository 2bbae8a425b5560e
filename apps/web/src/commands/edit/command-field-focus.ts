/**
 * When the command field was asked for last, as the field itself remembers it; a choice made just before must
 * not take the focus away from it again.
 */
const askedAt = (): number => Number(field()?.dataset['askedAt'] ?? -Infinity);

const field = (): HTMLInputElement | null => document.querySelector<HTMLInputElement>('#command-field');

export function focusCommandField(): void {
  const input = field();
  if (!input) return;
  input.dataset['askedAt'] = String(performance.now());
  input.blur();
  input.focus();
}

/**
 * After a choice the keys go to the model again, before what was chosen runs: a dialog gives the focus back
 * to where it was.
 */
export function leaveCommandField(then: () => void): void {
  const chosenAt = performance.now();
  // The list gives the focus back to its field in the next frame: after that.
  requestAnimationFrame(() =>
    setTimeout(() => {
      if (askedAt() <= chosenAt) document.querySelector<HTMLElement>('[data-testid=scene]')?.focus();
      then();
    }),
  );
}
