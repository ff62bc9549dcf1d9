import 'vuetify/styles'

import { createVuetify } from 'vuetify'
import { aliases, mdi } from 'vuetify/iconsets/mdi-svg'

import { dark, light, type Tokens } from './tokens'

/** Our tokens under Vuetify's own names where it has one, and under ours for the rest. */
function colors(t: Tokens): Record<string, string> {
  return {
    background: t.ground,
    surface: t.panel,
    primary: t.ink,
    secondary: t.ink2,
    error: t.flag,
    success: t.good,
    info: t.pick,
    warning: t.flag,
    'on-background': t.ink,
    'on-surface': t.ink,
    'on-primary': t.onInk,
    'on-error': t.onFlag,
    'on-success': t.onInk,
    ground: t.ground,
    panel: t.panel,
    raised: t.raised,
    paper: t.paper,
    ink: t.ink,
    'ink-2': t.ink2,
    'ink-3': t.ink3,
    rule: t.rule,
    edge: t.edge,
    flag: t.flag,
    'flag-ground': t.flagGround,
    'on-flag': t.onFlag,
    good: t.good,
    'good-ground': t.goodGround,
    pick: t.pick,
    print: t.print,
  }
}

/** The nonce that the page's content security policy grants to styles made at run time. */
function styleNonce(): string | undefined {
  return document.querySelector<HTMLMetaElement>('meta[property=csp-nonce]')?.nonce || undefined
}

export const vuetify = createVuetify({
  icons: { defaultSet: 'mdi', aliases, sets: { mdi } },
  theme: {
    defaultTheme: 'light',
    cspNonce: styleNonce(),
    themes: {
      light: { dark: false, colors: colors(light) },
      dark: { dark: true, colors: colors(dark) },
    },
  },
  defaults: {
    VBtn: { variant: 'flat', ripple: false },
    VTextField: { variant: 'outlined', density: 'compact', hideDetails: 'auto' },
    VSelect: { variant: 'outlined', density: 'compact', hideDetails: 'auto' },
    VTooltip: { openDelay: 400, location: 'bottom' },
    VSwitch: { density: 'compact', hideDetails: true, inset: true, color: 'primary' },
  },
})
