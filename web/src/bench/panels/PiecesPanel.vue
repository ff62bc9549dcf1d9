<script setup lang="ts">
import { computed, ref, shallowReactive, watch } from 'vue'

import type { Layer } from '@/api/types'
import { count } from '@/composables/lengths'
import { useDrawing, type Drawn } from '@/stores/drawing'
import { useJob } from '@/stores/job'
import { colourOf, usePicks } from '@/stores/picks'
import { words } from '@/words'

import PanelFrame from '../PanelFrame.vue'
import LayerRow from './LayerRow.vue'
import PieceRow from './PieceRow.vue'

/** All layers with their pieces: searched, picked, named, hidden, locked and put in order. */
const drawing = useDrawing()
const jobs = useJob()
const picks = usePicks()
const w = words.list
const search = ref('')
const folded = shallowReactive(new Set<string>())

type Row = { key: string; layer: Layer; drawn?: Drawn; name: string; pieces: number; colours: string[] }
const nameOf = ({ piece }: Drawn, number: number) => piece.name || w.unnamed(number)

const rows = computed<Row[]>(() => {
  const wanted = search.value.trim().toLowerCase()
  const groups = new Map<string, Drawn[]>()
  for (const one of drawing.drawn) {
    const own = groups.get(one.layer.id)
    if (own) own.push(one)
    else groups.set(one.layer.id, [one])
  }
  return (drawing.drawing?.layers ?? []).flatMap((layer) => {
    const own = (groups.get(layer.id) ?? []).map((drawn, i) => ({ drawn, name: nameOf(drawn, i + 1) }))
    const found = wanted && !layer.name.toLowerCase().includes(wanted) ? own.filter((one) => one.name.toLowerCase().includes(wanted)) : own
    if (wanted && !found.length) return []
    const head: Row = {
      key: layer.id,
      layer,
      name: layer.name,
      pieces: own.length,
      colours: [...new Set(own.map((one) => colourOf(one.drawn)))],
    }
    const pieces = found.map(({ drawn, name }): Row => ({ key: drawn.piece.id, layer, drawn, name, pieces: 0, colours: [] }))
    return folded.has(layer.id) && !wanted ? [head] : [head, ...pieces]
  })
})

const flip = (layer: string) => (folded.has(layer) ? folded.delete(layer) : folded.add(layer))

/** A click picks one, with Control one more or one less, with Shift all from the last one on. */
let last = ''
function pick(row: Row, event: MouseEvent | KeyboardEvent) {
  picks.touched = null
  const pieces = rows.value.filter((one) => one.drawn)
  const [a, b] = [pieces.findIndex((one) => one.key === last), pieces.findIndex((one) => one.key === row.key)]
  if (event.shiftKey && a >= 0) {
    picks.take(
      pieces.slice(Math.min(a, b), Math.max(a, b) + 1).map((one) => ({ piece: one.key })),
      'add',
    )
  } else {
    last = row.key
    picks.take([{ piece: row.key }], event.ctrlKey || event.metaKey ? 'add' : 'only')
  }
}

/** Up and down go from row to row. */
const list = ref<{ scrollToIndex: (index: number) => void } | null>(null)
function key(event: KeyboardEvent) {
  const by = { ArrowDown: 1, ArrowUp: -1 }[event.key]
  const main = (event.target as HTMLElement).closest<HTMLElement>('[data-piece]')
  if (!by || !main) return
  event.preventDefault()
  const all = [...(event.currentTarget as HTMLElement).querySelectorAll<HTMLElement>('[data-piece]')]
  all[all.indexOf(main) + by]?.focus()
}
/** What is picked on the work comes into view here. */
watch(
  () => picks.pieces,
  (pieces) => {
    const at = rows.value.findIndex((row) => row.key === pieces[0])
    if (pieces.length === 1 && at >= 0 && pieces[0] !== last) list.value?.scrollToIndex(at)
  },
  { flush: 'post' },
)
</script>

<template>
  <PanelFrame :title="w.title">
    <template #head>
      <p class="quiet">
        {{ count(drawing.drawing?.layers.length ?? 0, 'layer') }}, {{ count(drawing.drawn.length, 'piece') }};
        {{ w.picked(picks.pieces.length) }}
      </p>
      <input v-model="search" class="search" type="search" :placeholder="w.search" :aria-label="w.search" />
    </template>
    <p v-if="!rows.length" class="none quiet">{{ search ? w.notFound(search) : w.empty }}</p>
    <v-virtual-scroll v-else ref="list" class="rows" :items="rows" item-key="key" height="100%" @keydown="key">
      <template #default="{ item }">
        <LayerRow
          v-if="!item.drawn"
          :layer="item.layer"
          :pieces="item.pieces"
          :colours="item.colours"
          :open="!folded.has(item.layer.id)"
          @toggle="flip(item.layer.id)"
        />
        <PieceRow v-else :drawn="item.drawn" :name="item.name" :picked="picks.pickedPieces.has(item.key)" @pick="pick(item, $event)" />
      </template>
    </v-virtual-scroll>
    <template #foot>
      <div class="pair">
        <v-btn variant="outlined" :disabled="!drawing.inUse.length" @click="picks.pickAll()">{{ w.pickAll }}</v-btn>
        <v-btn variant="outlined" :disabled="!jobs.hiddenPieces || !!jobs.busy" @click="jobs.showAll()">{{ w.showAll }}</v-btn>
      </div>
    </template>
  </PanelFrame>
</template>

<style scoped>
.search {
  height: 32px;
  padding: 0 10px;
  border: 1px solid var(--edge);
  border-radius: 8px;
  background: var(--raised);
}
.none {
  padding: 24px 18px;
}
</style>
