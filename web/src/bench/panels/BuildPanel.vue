<script setup lang="ts">
import { computed, onMounted, onUnmounted, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import { OFFERS, type Offer } from '@/bench/build'
import { useDraft } from '@/stores/draft'
import { useDrawing } from '@/stores/drawing'
import { useJob } from '@/stores/job'
import { useLibrary } from '@/stores/library'
import { useOffers } from '@/stores/offers'
import { usePicks } from '@/stores/picks'
import { words } from '@/words'

import OfferThumb from '../OfferThumb.vue'
import PanelFrame from '../PanelFrame.vue'
import DraftPanel from './DraftPanel.vue'

/** What is there, and what can be made of what is picked, each one press from being seen on the work. */
const draft = useDraft()
const drawing = useDrawing()
const jobs = useJob()
const library = useLibrary()
const offers = useOffers()
const picks = usePicks()
const w = words.build

const MOST_NAMED = 2
const begun = computed(() => {
  if (!drawing.inUse.length) return w.empty
  if (!picks.pieces.length) return w.withAll
  const named = picks.pieces.map((id) => picks.byId.get(id)?.piece.name).filter((name) => !!name) as string[]
  if (!named.length) return w.with(w.pieces(picks.pieces.length))
  const shown = named.slice(0, MOST_NAMED)
  return w.with(w.names(shown, picks.pieces.length - shown.length))
})

const text = ref('')
const found = computed(() => {
  const asked = text.value.toLowerCase().split(/\s+/).filter(Boolean)
  return OFFERS.filter((offer) => {
    if (!asked.length && !offers.fits(offer)) return false
    const { phrase, finds } = w.rows[offer.id]
    return asked.every((word) => `${phrase} ${finds}`.toLowerCase().includes(word))
  })
})
const seen = (offer: Offer) => offers.seen.get(offer.id)
const effect = (offer: Offer) => {
  const shown = seen(offer)
  return shown?.why || shown?.draft?.note || shown?.draft?.title || ''
}
const begin = (offer: Offer) => draft.begin(offer.operation, offer.values, offer.then)

// Whoever begins with words finds the form for them open.
const route = useRoute()
const router = useRouter()
watch(
  () => route.query.begin === 'words' && !!jobs.head && !!library.operation('words'),
  (now) => {
    if (!now) return
    draft.begin('words')
    void router.replace({ query: {} })
  },
  { immediate: true },
)

/** Tells whether an element can be seen. */
const watched = new WeakMap<Element, (here: boolean) => void>()
const observer = new IntersectionObserver((entries) => entries.forEach((one) => watched.get(one.target)?.(one.isIntersecting)))
const vInSight = {
  mounted(element: Element, { value }: { value: (here: boolean) => void }) {
    watched.set(element, value)
    observer.observe(element)
  },
  unmounted(element: Element) {
    watched.get(element)?.(false)
    observer.unobserve(element)
  },
}
onUnmounted(() => observer.disconnect())

let stop = () => {}
onMounted(() => (stop = offers.follow()))
onUnmounted(() => {
  stop()
  // A kept step that is reopened takes this panel's place.
  if (!draft.key) draft.clear()
})
</script>

<template>
  <DraftPanel v-if="draft.operation" />
  <PanelFrame v-else :title="w.title">
    <template #head>
      <p class="quiet">{{ begun }}</p>
    </template>
    <div class="part">
      <input
        v-model="text"
        class="find"
        type="search"
        :placeholder="w.findHint"
        :aria-label="w.find"
        autocomplete="off"
        @keydown.enter="found[0] && offers.fits(found[0]) && begin(found[0])"
      />
      <ul class="offers">
        <li v-for="offer in found" :key="offer.id" v-in-sight="(here: boolean) => offers.sight(offer.id, here)">
          <button class="offer" :class="{ cannot: seen(offer)?.why }" :disabled="!offers.fits(offer) || !!jobs.busy" @click="begin(offer)">
            <OfferThumb v-if="seen(offer)?.draft" :draft="seen(offer)!.draft!" :pieces="offers.pieces" />
            <span v-else class="empty" aria-hidden="true" />
            <span class="said">
              <b>{{ w.rows[offer.id].phrase }}</b>
              <span class="small quiet effect" :title="effect(offer)">{{ effect(offer) }}</span>
            </span>
          </button>
        </li>
      </ul>
      <p v-if="!found.length" class="quiet">{{ w.nothingFound(text) }}</p>
    </div>
  </PanelFrame>
</template>

<style scoped>
.find {
  width: 100%;
  min-height: 38px;
  padding: 0 12px;
  border: 1px solid var(--edge);
  border-radius: 8px;
  background: var(--raised);
  color: var(--ink);
  font: inherit;
}
.offers {
  display: grid;
  gap: 2px;
  margin: 10px -8px 0;
  padding: 0;
  list-style: none;
}
.offer {
  display: flex;
  align-items: center;
  gap: 12px;
  width: 100%;
  padding: 6px 8px;
  border: 1px solid transparent;
  border-radius: 10px;
  background: none;
  color: var(--ink);
  text-align: left;
  cursor: pointer;
}
.offer:hover:not(:disabled) {
  border-color: var(--rule);
  background: var(--raised);
}
.offer:disabled,
.cannot {
  color: var(--ink-2);
}
.empty {
  flex: none;
  width: 76px;
  height: 52px;
  border: 1px dashed var(--rule);
  border-radius: 2px;
}
.said {
  display: grid;
  gap: 1px;
  min-width: 0;
}
.effect {
  display: -webkit-box;
  -webkit-box-orient: vertical;
  -webkit-line-clamp: 2;
  line-clamp: 2;
  overflow: hidden;
}
</style>
