import type { StepDone } from '@/api/types'

/** The ways lines are found, in the order they are offered. */
export const MODES = ['dark', 'shades', 'colour', 'outside', 'centre', 'ink-fields'] as const
export type Mode = (typeof MODES)[number]
export type Pixel = [number, number]

/** What a trace is told beside darkness, smoothness and the smallest bit, as its step's parameters have it. */
export interface TraceOptions {
  colours: number | null
  shades: number
  with_darker: boolean
  background: boolean
  tolerance: number
  holes: boolean
  distance_mm: number
  underlap_mm: number
  widest_mm: number | null
  lines: 'draw' | 'cut'
  on_top: boolean
  colour: string | null
  inside: Pixel[]
  beyond: Pixel[]
  dropped: Pixel[]
  kept: Pixel[]
  joined: string[]
  left_out: string[]
  given: string[]
  moved: string[]
  within: string[]
  crop: Pixel[]
  turned_degrees: number
  inverted: boolean
  calmed: boolean
  even_light: boolean
  reference: string | null
  ends: Pixel[]
  apart_mm: number | null
  width_mm: number | null
  height_mm: number | null
  mirrored: boolean
}
export type OptionName = keyof TraceOptions

/** As it is where nobody says otherwise. */
export const plain = (): TraceOptions => ({
  colours: null,
  shades: 3,
  with_darker: false,
  background: true,
  tolerance: 0.1,
  holes: false,
  distance_mm: 0,
  underlap_mm: 0,
  widest_mm: null,
  lines: 'draw',
  on_top: false,
  colour: null,
  inside: [],
  beyond: [],
  dropped: [],
  kept: [],
  joined: [],
  left_out: [],
  given: [],
  moved: [],
  within: [],
  crop: [],
  turned_degrees: 0,
  inverted: false,
  calmed: false,
  even_light: false,
  reference: null,
  ends: [],
  apart_mm: null,
  width_mm: null,
  height_mm: null,
  mirrored: false,
})
const PLAIN = plain()
export const NAMES = Object.keys(PLAIN) as OptionName[]

/** What only some ways of tracing are told. */
const OWN: Record<Mode, OptionName[]> = {
  dark: ['colour'],
  shades: ['shades', 'with_darker', 'background', 'underlap_mm'],
  colour: ['colours', 'background', 'underlap_mm'],
  outside: ['distance_mm', 'holes', 'tolerance', 'inside', 'beyond'],
  centre: ['lines', 'widest_mm', 'colour'],
  'ink-fields': ['colours', 'underlap_mm', 'on_top'],
}
const SOME = new Set<OptionName>(Object.values(OWN).flat())
export const isAsked = (mode: Mode, name: OptionName) => !SOME.has(name) || OWN[mode].includes(name)

const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b)
export const isPlain = (options: TraceOptions, name: OptionName) => same(options[name], PLAIN[name])

/** What this way of tracing is told that is not as it is anyway. */
export function ownOptions(mode: Mode, options: TraceOptions): Partial<TraceOptions> {
  return Object.fromEntries(NAMES.filter((name) => isAsked(mode, name) && !isPlain(options, name)).map((name) => [name, options[name]]))
}

/** The options of a step as it was kept. */
export function optionsOf(step: StepDone | null): TraceOptions {
  const given = (step?.parameters ?? {}) as Partial<TraceOptions>
  const known = Object.fromEntries(NAMES.filter((name) => given[name] !== undefined).map((name) => [name, given[name]]))
  return { ...plain(), ...structuredClone(known) }
}
export const modeOf = (step: StepDone | null): Mode | null => {
  if (!step) return null
  const mode = (step.parameters as { mode?: Mode }).mode
  return mode && MODES.includes(mode) ? mode : 'dark'
}
