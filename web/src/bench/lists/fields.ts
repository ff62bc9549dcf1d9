import { parseLength } from '@/composables/lengths'
import type { Entry, Kind } from '@/stores/lists'
import { words } from '@/words'

const w = words.lists

export type Control =
  'text' | 'colour' | 'number' | 'tick' | 'tool' | 'format' | 'shape' | 'carrier' | 'edge' | 'marks' | 'material' | 'grain'
export interface Field {
  name: keyof typeof w.fields
  control: Control
  unit?: keyof typeof w.units
  /** May be left empty. */
  open?: boolean
}
export interface Group {
  name: keyof typeof w.groups
  fields: Field[]
}
const length = (name: Field['name']): Field => ({ name, control: 'number', unit: 'mm' })

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
  const bare = text.replace(',', '.').replace(/\s*(mm(2|²|\/s)|g)$/, '')
  const value = field.unit === 'mm' ? parseLength(text) : /^[\d.]+$/.test(bare) ? Number(bare) : null
  const fits = value !== null && Number.isFinite(value) && (!range || (value >= range.low && value <= range.high))
  if (!fits) return undefined
  return field.unit === 'count' ? Math.round(value) : value
}
