import { parseLength } from '@/composables/lengths'
import type { Parameter } from '@/api/types'
import type { Entry, Kind } from '@/stores/lists'
import { words } from '@/words'

const w = words.lists

export type Control =
  | 'text'
  | 'colour'
  | 'number'
  | 'tick'
  | 'choice'
  | 'machine'
  | 'tool'
  | 'format'
  | 'shape'
  | 'carrier'
  | 'edge'
  | 'marks'
  | 'material'
  | 'ofMaterial'
  | 'grain'
export interface Field {
  name: string
  control: Control
  unit?: keyof typeof w.units
  /** May be left empty. */
  open?: boolean
  /** What it is called, said of it and chosen from, where these words are not those of the lists. */
  label?: string
  hint?: string
  choices?: [string, string][]
}
export interface Group {
  name: keyof typeof w.groups
  /** Fields, or names of those that are as they are declared. */
  fields: (Field | string)[]
  /** Folded away until it is wanted, or is not as usual. */
  folds?: boolean
}
const length = (name: string): Field => ({ name, control: 'number', unit: 'mm' })

const UNITS: Record<string, keyof typeof w.units> = {
  mm: 'mm',
  'mm/s': 'speed',
  'mm/s2': 'pull',
  g: 'force',
  '%': 'share',
  s: 'seconds',
  degrees: 'angle',
}
/** A field as it is declared. */
export function declared(of: Parameter): Field {
  const said = {
    name: of.name,
    label: of.label[0].toUpperCase() + of.label.slice(1),
    hint: of.help.startsWith('in ') ? '' : of.help,
    open: of.optional,
  }
  if (of.kind === 'flag') return { ...said, control: 'tick' }
  if (of.kind === 'choice') return { ...said, control: 'choice', choices: of.choices.map(({ value, words }) => [value, words]) }
  if (of.low === null) return { ...said, control: 'text', open: true }
  return { ...said, control: 'number', unit: of.kind === 'count' ? 'count' : (UNITS[of.unit] ?? 'count') }
}
export const labelOf = (field: Field) => field.label ?? w.fields[field.name as keyof typeof w.fields]

/** What is typed of each kind, in groups. */
export const GROUPS: Record<Kind, Group[]> = {
  materials: [
    { name: 'name', fields: [{ name: 'name', control: 'text' }, { name: 'color', control: 'colour' }, length('thickness_mm')] },
    {
      name: 'bears',
      fields: [length('least_strip_mm'), length('least_gap_mm'), { name: 'least_piece_mm2', control: 'number', unit: 'mm2' }],
    },
    { name: 'sheet', fields: [length('sheet_width_mm'), length('sheet_height_mm')] },
    {
      name: 'cut',
      fields: [
        { name: 'cut_from_back', control: 'tick' },
        { name: 'on_liner', control: 'tick' },
        { name: 'grain', control: 'grain' },
      ],
    },
  ],
  machines: [
    { name: 'name', fields: [{ name: 'name', control: 'text' }] },
    { name: 'reach', fields: [length('reach_width_mm'), length('reach_height_mm')] },
    {
      name: 'carrier',
      fields: [
        { name: 'carrier', control: 'carrier' },
        length('carrier_width_mm'),
        length('carrier_height_mm'),
        length('reach_left_mm'),
        length('reach_top_mm'),
        length('grid_mm'),
        { name: 'goes_in', control: 'edge' },
      ],
    },
    {
      name: 'marks',
      fields: [
        { name: 'marks', control: 'marks' },
        length('mark_mm'),
        length('mark_inset_mm'),
        { name: 'mark_count', control: 'number', unit: 'count' },
      ],
    },
    { name: 'tool', fields: [{ name: 'tool', control: 'tool' }, length('kerf_mm'), length('finest_mm')] },
    {
      name: 'files',
      fields: [
        { name: 'format', control: 'format' },
        length('chord_mm'),
        { name: 'pens', control: 'number', unit: 'count' },
        { name: 'speed_mm_s', control: 'number', unit: 'speed', open: true },
        { name: 'force_g', control: 'number', unit: 'force', open: true },
        'power_percent',
        'beam',
      ],
    },
    { name: 'blade', folds: true, fields: ['blade_offset_mm', 'swivel_angle_deg', 'tangential', 'lift_angle_deg', 'z_swivel_mm'] },
    {
      name: 'ends',
      folds: true,
      fields: ['overcut_mm', 'lead_in_mm', 'lead_out_mm', 'lead', 'start', 'direction', 'order', 'dwell_s'],
    },
    {
      name: 'parts',
      folds: true,
      fields: ['passes', 'pass_depth_mm', 'pass_force_g', 'pass_power_percent', 'tabs', 'tab_mm', 'perforate_mm', 'perforate_gap_mm'],
    },
    {
      name: 'speeds',
      folds: true,
      fields: [
        'least_speed_mm_s',
        'most_speed_mm_s',
        'travel_speed_mm_s',
        'acceleration_mm_s2',
        'corner_percent',
        'corner_angle_deg',
        'corner_mm',
        'lift_s',
        'change_s',
      ],
    },
    {
      name: 'coordinates',
      folds: true,
      fields: [
        'address',
        'origin',
        'mirror_x',
        'mirror_y',
        'swap_axes',
        'unit',
        'steps',
        'arcs',
        'z_up_mm',
        'z_down_mm',
        'words_before',
        'words_after',
      ],
    },
  ],
  settings: [
    {
      name: 'name',
      fields: [
        { name: 'name', control: 'text' },
        { name: 'machine', control: 'machine' },
        { name: 'material', control: 'ofMaterial' },
      ],
    },
    {
      name: 'changes',
      fields: [
        'speed_mm_s',
        'force_g',
        'power_percent',
        'kerf_mm',
        'overcut_mm',
        'passes',
        'pass_depth_mm',
        'pass_force_g',
        'pass_power_percent',
      ],
    },
  ],
  targets: [
    { name: 'name', fields: [{ name: 'name', control: 'text' }] },
    {
      name: 'face',
      fields: [
        { name: 'shape', control: 'shape' },
        length('width_mm'),
        length('height_mm'),
        length('corner_mm'),
        { name: 'outline', control: 'text', open: true },
      ],
    },
  ],
  stock: [
    {
      name: 'name',
      fields: [
        { name: 'name', control: 'text' },
        { name: 'material', control: 'material' },
      ],
    },
    {
      name: 'sheet',
      fields: [length('width_mm'), length('height_mm'), length('margin_mm'), { name: 'outline', control: 'text', open: true }],
    },
  ],
  purposes: [
    {
      name: 'name',
      fields: [
        { name: 'name', control: 'text' },
        { name: 'says', control: 'text', open: true },
      ],
    },
    {
      name: 'holds',
      fields: [
        { name: 'parts_hold', control: 'tick' },
        { name: 'is_stencil', control: 'tick' },
      ],
    },
  ],
}

export function shown(field: Field, value: Entry[string]): string {
  if (field.control !== 'number' || typeof value !== 'number') return String(value)
  return `${Number(value.toFixed(4))} ${w.units[field.unit!]}`.trim()
}

/** A number as typed, with or without its unit, undefined where it is none or beyond the range. */
export function read(field: Field, text: string, range: { low: number; high: number } | undefined): number | string | undefined {
  if (field.control !== 'number') return text
  const bare = text.replace(',', '.').replace(/\s*(mm(2|²|\/s(2|²)?)?|g|%|s|°)$/, '')
  const plain = /^-?[\d.]+$/.test(bare) ? Number(bare) : null
  const value = field.unit === 'mm' ? (parseLength(text) ?? plain) : plain
  const fits = value !== null && Number.isFinite(value) && (!range || (value >= range.low && value <= range.high))
  if (!fits) return undefined
  return field.unit === 'count' ? Math.round(value) : value
}
