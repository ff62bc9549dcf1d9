import { onMounted, onUnmounted } from 'vue'

import { useJob } from '@/stores/job'

/** Whoever comes back to this window sees what happened in others meanwhile; what could not be sent goes out with the line. */
export function useReturning() {
  const jobs = useJob()
  function returned() {
    if (document.visibilityState === 'visible' && jobs.job && !jobs.busy && !jobs.overtaken) void jobs.refresh()
  }
  const sendAgain = () => void jobs.sendAgain()
  onMounted(() => {
    document.addEventListener('visibilitychange', returned)
    window.addEventListener('online', sendAgain)
  })
  onUnmounted(() => {
    document.removeEventListener('visibilitychange', returned)
    window.removeEventListener('online', sendAgain)
  })
}
