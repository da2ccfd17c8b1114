/**
 * Where the focus goes when what lay over the page is put away: to what had it on the page
 * itself. A dialog that a menu opened would give it back to the menu's entry, which is gone.
 */
const OVER_THE_PAGE = '[role=dialog], [role=alertdialog], [role=menu], [role=listbox], [data-radix-popper-content-wrapper]';

let lastOnPage: HTMLElement | undefined;

document.addEventListener('focusin', ({ target }) => {
  if (target instanceof HTMLElement && target !== document.body && !target.closest(OVER_THE_PAGE)) lastOnPage = target;
});

/** Focuses what last had the focus on the page; the page's main part where that is gone. */
export function giveFocusBack(): void {
  if (lastOnPage?.isConnected && lastOnPage.checkVisibility()) {
    lastOnPage.focus({ preventScroll: true });
    return;
  }
  const main = document.querySelector<HTMLElement>('main');
  if (!main) return;
  if (!main.hasAttribute('tabindex')) main.tabIndex = -1;
  main.focus({ preventScroll: true });
}
