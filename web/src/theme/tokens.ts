/** The colours of the bench. tests/contrast.test.ts holds every text pair to WCAG 2.2 AA. */
export interface Tokens {
  ground: string
  panel: string
  raised: string
  paper: string
  ink: string
  ink2: string
  ink3: string
  onInk: string
  rule: string
  edge: string
  flag: string
  flagGround: string
  onFlag: string
  good: string
  goodGround: string
  pick: string
  print: string
}

export const light: Tokens = {
  ground: '#e9e3d5',
  panel: '#f7f2e7',
  raised: '#fffdf7',
  paper: '#fffdf7',
  ink: '#1b2a4e',
  ink2: '#4a577a',
  ink3: '#5d6783',
  onInk: '#fffdf7',
  rule: '#d3cab6',
  edge: '#8a8471',
  flag: '#c2361f',
  flagGround: '#fbe6df',
  onFlag: '#ffffff',
  good: '#2c6e5b',
  goodGround: '#dfeee5',
  pick: '#2f5fd0',
  print: '#1b2a4e',
}

export const dark: Tokens = {
  ground: '#0f1626',
  panel: '#172139',
  raised: '#1f2c4b',
  paper: '#f3eee0',
  ink: '#e8e6dc',
  ink2: '#b3bbd0',
  ink3: '#8f9ab5',
  onInk: '#172139',
  rule: '#2b3857',
  edge: '#6f7fa6',
  flag: '#ff7a5c',
  flagGround: '#3a2028',
  onFlag: '#1a1220',
  good: '#7fd1b3',
  goodGround: '#16342f',
  pick: '#7fa4ff',
  print: '#1b2a4e',
}
