/** When the command field was asked for last; a choice made just before must not take the focus away from it again. */
let askedAt = -Infinity;

/** ms */
const JUST_NOW = 300;

const field = (): HTMLInputElement | null => document.querySelector<HTMLInputElement>('#command-field');

export function focusCommandField(): void {
  askedAt = performance.now();
  field()?.blur();
  field()?.focus();
}

/** After a choice the keys go to the model again. */
export function leaveCommandField(): void {
  setTimeout(() => {
    if (performance.now() - askedAt > JUST_NOW) document.querySelector<HTMLElement>('[data-testid=scene]')?.focus();
  });
}
