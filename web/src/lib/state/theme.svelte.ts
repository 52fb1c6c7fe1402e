export type Theme = 'auto' | 'light' | 'dark';
const STORE = 'yperon.theme';
const WORDS: Record<Theme, string> = {
  auto: 'Colours: as this device has them',
  light: 'Colours: light',
  dark: 'Colours: dark',
};
/** The names of our two themes in the style sheet. */
const STYLES = { auto: undefined, light: 'scullery', dark: 'cellar' };
const THEMES = Object.keys(WORDS) as Theme[];

/** Light, dark, or as the device has it. Kept on the device too, for before somebody has signed in. */
class ThemeState {
  current = $state<Theme>((localStorage.getItem(STORE) as Theme | null) ?? 'auto');
  words = $derived(WORDS[this.current]);

  constructor() {
    this.choose(THEMES.includes(this.current) ? this.current : 'auto');
  }

  choose(theme: Theme): void {
    this.current = theme;
    localStorage.setItem(STORE, theme);
    const root = document.documentElement;
    const style = STYLES[theme];
    if (style) root.dataset.theme = style;
    else delete root.dataset.theme;
  }

  next(): void {
    this.choose(THEMES[(THEMES.indexOf(this.current) + 1) % THEMES.length] ?? 'auto');
  }
}

export const theme = new ThemeState();
