<script setup lang="ts">
import type { Proof } from '@/api/types'
import { count, mm } from '@/composables/lengths'
import { words } from '@/words'

const w = words.pieceList
/** What the next program shows when the file is taken apart there: read from the file's own bytes. */
defineProps<{ proof: Proof }>()
</script>

<template>
  <details class="list">
    <summary>
      {{ w.holds }} <b>{{ count(proof.piece_count, w.piece, w.pieces) }}</b>
    </summary>
    <ol>
      <li v-for="(line, i) in proof.pieces" :key="i">
        <span class="swatch" :style="{ background: line.color }" aria-hidden="true" />
        <span class="name"
          >{{ line.name || w.unnamed(i + 1) }} <span class="quiet">{{ line.layer }}</span></span
        >
        <span class="figures">
          {{ mm(line.width_mm) }} × {{ mm(line.height_mm) }}<template v-if="line.open">{{ w.line }}</template
          ><template v-if="line.outers > 1">{{ w.shapes(line.outers) }}</template
          ><template v-if="line.holes">{{ w.holes(line.holes) }}</template>
        </span>
      </li>
    </ol>
    <p v-if="proof.piece_count > proof.pieces.length" class="quiet">
      {{ w.more(proof.piece_count - proof.pieces.length) }}
    </p>
  </details>
</template>

<style scoped>
.list {
  margin: 10px 18px 8px;
  font-size: 12.5px;
}
summary {
  min-height: 28px;
  font-size: 14px;
  cursor: pointer;
}
ol {
  list-style: none;
  margin: 4px 0;
  padding: 0;
  display: grid;
}
li {
  display: grid;
  grid-template-columns: 12px 1fr auto;
  gap: 8px;
  align-items: baseline;
  padding: 4px 0;
  border-top: 1px solid var(--rule);
}
.swatch {
  width: 12px;
  height: 12px;
  border-radius: 3px;
  border: 1px solid var(--edge);
}
.name {
  overflow-wrap: anywhere;
}
.figures {
  color: var(--ink-2);
  text-align: right;
}
</style>
