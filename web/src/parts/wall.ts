/** Times come with the keeper's offset; charts use the wall clock they show, whatever zone the browser is in. */
export function wall(iso: string): number {
  return Date.parse(`${iso.slice(0, 19)}Z`)
}

const DAYS = ['Sun', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat']
const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec']

export function dayWords(at: number): string {
  const date = new Date(at)
  return `${DAYS[date.getUTCDay()]} ${date.getUTCDate()} ${MONTHS[date.getUTCMonth()]}`
}
export function shortDay(at: number): string {
  const date = new Date(at)
  return date.getUTCDate() === 1 || date.getUTCDate() < 8
    ? `${date.getUTCDate()} ${MONTHS[date.getUTCMonth()]}`
    : `${date.getUTCDate()}`
}
export function clockWords(iso: string): string {
  return `${dayWords(wall(iso))} · ${iso.slice(11, 16)}`
}
export function isoDay(at: number): string {
  return new Date(at).toISOString().slice(0, 10)
}
