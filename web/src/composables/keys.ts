import { onMounted, onUnmounted } from 'vue'

/** What has the keys to itself while it is open. */
const OPEN = '.v-overlay--active[role=dialog], .v-overlay--active.v-dialog, .v-overlay--active.v-menu'

/** Where letters are typed; a choice or a tick takes none. */
const TYPING = 'input:not([type=radio], [type=checkbox]), textarea, select, [contenteditable]'

/** Runs an action for a key, such as "1", "n" or "ctrl+z", unless somebody is typing, or a dialog or menu is open. */
export function useKeys(actions: Record<string, () => void>) {
  function pressed(event: KeyboardEvent) {
    const target = event.target as HTMLElement
    if (target.closest(TYPING) || document.querySelector(OPEN)) return
    const control = event.ctrlKey || event.metaKey
    if (event.altKey) return
    const name = `${control ? 'ctrl+' : ''}${event.shiftKey && control ? 'shift+' : ''}${event.key.toLowerCase()}`
    const action = actions[name]
    if (!action) return
    event.preventDefault()
    action()
  }
  onMounted(() => window.addEventListener('keydown', pressed))
  onUnmounted(() => window.removeEventListener('keydown', pressed))
}
