import { ref } from 'vue'

import type { Pixel } from '@/stores/traceOptions'

/** Reads the colours of a picture that is shown, as #rrggbb; null beside it, or until it has come. */
export function usePictureColour() {
  let shown = ''
  let pixels: CanvasRenderingContext2D | null = null
  /** Large pictures are shown smaller: how many of their pixels make one that is shown. */
  let factor = 1
  const ready = ref(false)

  async function show(url: string, width: number) {
    if (url === shown) return
    shown = url
    pixels = null
    ready.value = false
    const image = new Image()
    image.src = url
    await image.decode()
    if (url !== shown) return
    const canvas = document.createElement('canvas')
    canvas.width = image.naturalWidth
    canvas.height = image.naturalHeight
    pixels = canvas.getContext('2d', { willReadFrequently: true })
    pixels?.drawImage(image, 0, 0)
    factor = width / image.naturalWidth
    ready.value = true
  }

  /** The middle of three by three pixels, since single ones are noisy. */
  function at(pixel: Pixel): string | null {
    const [x, y] = pixel.map((v) => Math.floor(v / factor))
    if (!pixels || x < 0 || y < 0 || x >= pixels.canvas.width || y >= pixels.canvas.height) return null
    const { data } = pixels.getImageData(x - 1, y - 1, 3, 3)
    const middle = (channel: number) => {
      const all = Array.from({ length: 9 }, (_, i) => data[4 * i + channel]).sort((a, b) => a - b)
      return all[4]
    }
    return `#${[0, 1, 2].map((c) => middle(c).toString(16).padStart(2, '0')).join('')}`
  }
  return { show, at, ready }
}
