export type Theme = 'auto' | 'scullery' | 'cellar';
const STORE = 'yperon.theme';
const WORDS: Record<Theme, string> = {
  auto: 'Colours: as this device has them',
  scullery: 'Colours: light',
  cellar: 'Colours: dark',
};
const THEMES = Object.keys(WORDS) as Theme[];

/** Light, dark, or as the device has it. */
class ThemeState {
  current = $state<Theme>((localStorage.getItem(STORE) as Theme | null) ?? 'auto');
  words = $derived(WORDS[this.current]);

  constructor() {
    if (!THEMES.includes(this.current)) this.current = 'auto';
    this.show();
  }

  next(): void {
    this.current = THEMES[(THEMES.indexOf(this.current) + 1) % THEMES.length] ?? 'auto';
    localStorage.setItem(STORE, this.current);
    this.show();
  }

  private show(): void {
    const root = document.documentElement;
    if (this.current === 'auto') delete root.dataset.theme;
    else root.dataset.theme = this.current;
  }
}

export const theme = new ThemeState();
