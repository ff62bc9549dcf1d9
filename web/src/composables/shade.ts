import { onMounted, onUnmounted, ref } from 'vue'
import { useTheme } from 'vuetify'

type Shade = 'light' | 'dark'
const KEPT = 'hakobu-shade'
const shade = ref<Shade>('light')

/** Light or dark: what was chosen here before, else what the system asks for. */
export function useShade() {
  const theme = useTheme()
  const system = window.matchMedia('(prefers-color-scheme: dark)')

  function set(value: Shade, keep = true) {
    shade.value = value
    theme.change(value)
    if (keep) localStorage.setItem(KEPT, value)
  }
  const follow = () => {
    if (!localStorage.getItem(KEPT)) set(system.matches ? 'dark' : 'light', false)
  }
  onMounted(() => {
    const kept = localStorage.getItem(KEPT)
    if (kept === 'light' || kept === 'dark') set(kept, false)
    else follow()
    system.addEventListener('change', follow)
  })
  onUnmounted(() => system.removeEventListener('change', follow))
  return { shade, flip: () => set(shade.value === 'light' ? 'dark' : 'light') }
}
