/* Every colour of the page, written once: for the components, our own drawings and the style sheets. */

export const COLOURS = {
  paper: '#f5f2ea',
  panel: '#fbfaf5',
  white: '#fff',
  ink: '#15293b',
  quiet: '#4d5c68',
  faint: '#66737d',
  glass: '#1f7a70',
  'glass-wash': '#ddeae6',
  brass: '#b9832b',
  'brass-text': '#8a5f16',
  'brass-wash': '#f3e6cd',
  coral: '#d9503a',
  'coral-text': '#b83a26',
  hairline: '#d9d4c6',
  grid: '#ebe7dc',
  groove: '#ece8dc',
  ground: '#eaf0ec',
} as const;

export type Ink = keyof typeof COLOURS;

/** Style sheets and drawings know them as `var(--ink)` and so on. */
export function setColours({ style }: HTMLElement): void {
  for (const [name, colour] of Object.entries(COLOURS)) style.setProperty(`--${name}`, colour);
}
