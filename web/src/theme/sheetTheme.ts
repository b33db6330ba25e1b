/** The light sheet and the dark one. */
export type SheetTheme = 'sheet' | 'night';

const KEY = 'rammer-sheet';

/** The sheet chosen in this browser; the light one until somebody chooses. */
export const shownSheet = (): SheetTheme => (localStorage.getItem(KEY) === 'night' ? 'night' : 'sheet');

export function applySheet(theme: SheetTheme): void {
  document.documentElement.dataset.theme = theme;
  localStorage.setItem(KEY, theme);
}
