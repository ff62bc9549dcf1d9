import { shallowRef, watch, type Ref } from 'vue'

import { client, want } from '@/api/client'
import { floats } from '@/api/unpack'
import { useDrawing } from '@/stores/drawing'
import { usePicks } from '@/stores/picks'

/** More pieces than this are not shown with their handles: nobody could tell whose they are. */
const MOST = 12

/** The handles of the picked pieces, while they are wanted: x, y of each node and of its handle's end. */
export function useHandles(wanted: Ref<boolean>) {
  const picks = usePicks()
  const drawing = useDrawing()
  const handles = shallowRef<Float32Array | null>(null)
  watch([() => picks.pieces, wanted, () => drawing.shown], async () => {
    const pieces = picks.pieces
    handles.value = null
    if (!wanted.value || !pieces.length || pieces.length > MOST) return
    const params = { path: drawing.at(drawing.shown) }
    const found = await want(client.POST('/api/jobs/{job}/documents/{document}/handles', { params, body: { pieces } })).catch(() => null)
    if (found && picks.pieces === pieces) handles.value = floats(found.handles)
  })
  return handles
}
