const time = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit' })
const day = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short' })

export const clock = (iso: string) => time.format(new Date(iso))

/** "14:32" today, "3 Nov, 14:32" before. */
export function when(iso: string): string {
  const date = new Date(iso)
  return date.toDateString() === new Date().toDateString() ? clock(iso) : `${day.format(date)}, ${clock(iso)}`
}

/** How long something takes: "1 h 05 min", "3 min 20 s", "12 s". */
export function timeOf(seconds: number): string {
  const whole = Math.round(seconds)
  if (whole >= 3600) return `${Math.floor(whole / 3600)} h ${String(Math.floor((whole % 3600) / 60)).padStart(2, '0')} min`
  return whole >= 60 ? `${Math.floor(whole / 60)} min ${String(whole % 60).padStart(2, '0')} s` : `${whole} s`
}
