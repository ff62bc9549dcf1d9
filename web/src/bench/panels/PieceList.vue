<script setup lang="ts">
import type { Proof } from '@/api/types'
import { count, mm } from '@/composables/lengths'

/** What the next program shows when the file is taken apart there: read from the file's own bytes. */
defineProps<{ proof: Proof }>()
</script>

<template>
  <details class="list">
    <summary>
      Taken apart, the file holds <b>{{ count(proof.piece_count, 'piece') }}</b>
    </summary>
    <ol>
      <li v-for="(line, i) in proof.pieces" :key="i">
        <span class="swatch" :style="{ background: line.color }" aria-hidden="true" />
        <span class="name">{{ line.name || `piece ${i + 1}` }} <span class="quiet">{{ line.layer }}</span></span>
        <span class="figures">
          {{ mm(line.width_mm) }} × {{ mm(line.height_mm) }}<template v-if="line.open">, a line</template
          ><template v-if="line.outers > 1">, {{ line.outers }} shapes</template
          ><template v-if="line.holes">, {{ count(line.holes, 'hole') }}</template>
        </span>
      </li>
    </ol>
    <p v-if="proof.piece_count > proof.pieces.length" class="quiet">
      and {{ count(proof.piece_count - proof.pieces.length, 'more', 'more') }}
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
