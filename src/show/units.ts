const STEPS = ['bytes', 'kB', 'MB', 'GB', 'TB']

/** `912 bytes`, `458 kB`, `1.2 GB`: thousands of bytes, as file managers show them. */
export function shownBytes(bytes: number): string {
  let [value, step] = [bytes, 0]
  while (value >= 999.5 && step < STEPS.length - 1) {
    value /= 1000
    step++
  }
  const digits = step > 0 && value < 9.95 ? value.toFixed(1) : value.toFixed(0)
  return `${digits} ${STEPS[step] ?? ''}`
}

/** A day and a time of day where the user is: `2026-03-14 19:02`. */
export function shownTime(time: Date): string {
  const two = (number: number): string => String(number).padStart(2, '0')
  const day = `${time.getFullYear()}-${two(time.getMonth() + 1)}-${two(time.getDate())}`
  return `${day} ${two(time.getHours())}:${two(time.getMinutes())}`
}

/** How long ago something was, in the largest unit that tells: `3 days ago`. */
export function shownAge(time: Date, now: Date): string {
  const minutes = Math.floor((now.getTime() - time.getTime()) / 60_000)
  if (minutes < 2) return 'just now'
  if (minutes < 120) return `${minutes} minutes ago`
  if (minutes < 48 * 60) return `${Math.floor(minutes / 60)} hours ago`
  return `${Math.floor(minutes / (24 * 60))} days ago`
}
