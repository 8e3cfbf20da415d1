// Every colour, size and face of both themes. Components use the CSS variables made from
// these and nothing else.

export type ThemeName = 'stage' | 'bench'

const tapes = {
  bone: '#d9d4c5',
  yellow: '#f2d94e',
  sky: '#7be0ff',
  violet: '#bd93f0',
  teal: '#6fd0b4',
  pink: '#f29ac0',
  periwinkle: '#93a2f5',
  lime: '#b6e05a',
  sand: '#d8b384',
  moss: '#93b07a',
  lilac: '#d9b8ea',
  ice: '#bfe3e6',
}

const stage = {
  bg: '#0c0e0f',
  panel: '#111516',
  raised: '#181e1f',
  sunk: '#090b0b',
  line: '#2b3435',
  edge: '#6b7675',
  wire: '#909a98',
  text: '#ebe8de',
  muted: '#a3acaa',
  lit: '#ebe8de',
  onLit: '#101414',
  red: '#ff6a57',
  focus: '#f2d94e',
  onTape: '#0e1112',
}

const bench: typeof stage = {
  bg: '#efece2',
  panel: '#f8f6ef',
  raised: '#ffffff',
  sunk: '#e4e0d3',
  line: '#cbc5b4',
  edge: '#7a7566',
  wire: '#5f6562',
  text: '#181b1a',
  muted: '#4f5653',
  lit: '#1d2221',
  onLit: '#f8f6ef',
  red: '#b3231a',
  focus: '#1f4fd8',
  onTape: '#0e1112',
}

const faces = {
  label: "'Barlow Condensed', 'Arial Narrow', sans-serif",
  body: "'Atkinson Hyperlegible Next', Verdana, sans-serif",
  figures: "'Atkinson Hyperlegible Mono', monospace",
  mark: "'Saira Stencil One', 'Barlow Condensed', sans-serif",
}

function variables(values: Record<string, string>, prefix: string): string {
  return Object.entries(values)
    .map(([name, value]) => `--${prefix}${name}: ${value};`)
    .join(' ')
}

/** The variables of both themes, as CSS. */
export const themeCSS = `
  :root { ${variables(faces, 'face-')} ${variables(tapes, 'tape-')} }
  :root[data-theme='stage'] { color-scheme: dark; ${variables(stage, '')} }
  :root[data-theme='bench'] { color-scheme: light; ${variables(bench, '')} }
`

/** The colour of a tape by its name; bone for a name nobody knows. */
export function tape(name: string | undefined): string {
  return name && name in tapes ? `var(--tape-${name})` : 'var(--tape-bone)'
}

/** Where the screen is too narrow for columns: a phone, or text at twice its size. */
export const narrow = '@media (max-width: 899px)'

/** Where it has room for the work and its findings, but not for a list beside the work. */
export const tight = '@media (max-width: 1100px)'
