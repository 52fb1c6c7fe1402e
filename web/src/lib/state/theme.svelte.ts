export type Theme = 'auto' | 'scullery' | 'cellar';
const STORE = 'yperon.theme';

/** Light, dark, or as the device has it. */
class ThemeState {
  current = $state<Theme>((localStorage.getItem(STORE) as Theme | null) ?? 'auto');

  constructor() {
    this.show();
  }

  choose(theme: Theme): void {
    this.current = theme;
    localStorage.setItem(STORE, theme);
    this.show();
  }

  private show(): void {
    const root = document.documentElement;
    if (this.current === 'auto') delete root.dataset.theme;
    else root.dataset.theme = this.current;
  }
}

export const theme = new ThemeState();
