const time = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit' })
const day = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short' })

export const clock = (iso: string) => time.format(new Date(iso))

/** "14:32" today, "3 Nov, 14:32" before. */
export function when(iso: string): string {
  const date = new Date(iso)
  return date.toDateString() === new Date().toDateString() ? clock(iso) : `${day.format(date)}, ${clock(iso)}`
}
