// eslint-disable-next-line lingui/no-unlocalized-strings -- a selector
const focusable = 'a[href], button, input, select, textarea, summary, [tabindex]:not([tabindex="-1"])';
const near = 40; // elements before and after one that are remembered

const usable = (e: HTMLElement) => e.isConnected && !e.matches(':disabled') && e.getClientRects().length > 0;

/** Keeps the keyboard at work: what had it and is gone hands it to its neighbour, what is disabled for a while gets it back. */
export function keepFocus() {
  let last: HTMLElement | undefined;
  let held = false; // it is disabled for a while
  let after: HTMLElement[] = [];
  let before: HTMLElement[] = [];
  document.addEventListener('focusin', ({ target }) => {
    if (!(target instanceof HTMLElement) || target === document.body) return;
    const all = [...document.querySelectorAll<HTMLElement>(focusable)];
    const at = all.indexOf(target);
    last = target;
    held = false;
    after = at < 0 ? [] : all.slice(at + 1, at + 1 + near);
    before = at < 0 ? [] : all.slice(Math.max(0, at - near), at).reverse();
  });
  new MutationObserver(() => {
    if (!last || document.activeElement !== document.body) return;
    if (last.isConnected && last.matches(':disabled')) held = true;
    else if (!last.isConnected) (after.find(usable) ?? before.find(usable))?.focus({ preventScroll: true });
    else if (held) last.focus({ preventScroll: true });
    // Else it was left on purpose, by a click beside it.
  }).observe(document.documentElement, { subtree: true, childList: true, attributes: true, attributeFilter: ['disabled'] });
}

/** Takes the keyboard out of a field, to where single keys are commands: the view itself. */
export function toTheView() {
  const main = document.querySelector<HTMLElement>('main');
  if (!main && document.activeElement instanceof HTMLElement) document.activeElement.blur(); // it is not there yet
  main?.setAttribute('tabindex', '-1');
  main?.focus({ preventScroll: true });
}
