import { writing } from './numbers'

/** Times come with the keeper's offset; charts use the wall clock they show, whatever zone the browser is in. */
export function wall(iso: string): number {
  return Date.parse(`${iso.slice(0, 19)}Z`)
}

const DAYS = ['Sun', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat']
const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec']

/** A date as this keeper writes it: 24 Nov, Nov 24 or 2026-11-24. */
export function dateWords(date: Date, year = false): string {
  if (writing.days === 'iso') return date.toISOString().slice(0, 10)
  const [day, month] = [date.getUTCDate(), MONTHS[date.getUTCMonth()]]
  if (writing.days === 'month_first') return `${month} ${day}${year ? `, ${date.getUTCFullYear()}` : ''}`
  return `${day} ${month}${year ? ` ${date.getUTCFullYear()}` : ''}`
}
export function dayWords(at: number): string {
  const date = new Date(at)
  return `${DAYS[date.getUTCDay()]} ${dateWords(date)}`
}
export function shortDay(at: number): string {
  const date = new Date(at)
  return date.getUTCDate() < 8 ? dateWords(date) : `${date.getUTCDate()}`
}
/** A tick of an axis over so many days: hours, days, or months with the year where it begins. */
export function tickWords(at: number, days: number): string {
  const date = new Date(at)
  const midnight = at % 86_400_000 === 0
  if (days <= 4 && !midnight) return hourWords(date)
  if (days <= 150) return shortDay(at)
  const year = date.getUTCFullYear()
  if (date.getUTCDate() > 1) return dateWords(date)
  return date.getUTCMonth() ? MONTHS[date.getUTCMonth()]! : `${year}`
}
function hourWords(date: Date): string {
  const [hour, minute] = [date.getUTCHours(), String(date.getUTCMinutes()).padStart(2, '0')]
  const half = `${hour % 12 || 12}:${minute} ${hour < 12 ? 'am' : 'pm'}`
  return writing.clock === '12' ? half : `${String(hour).padStart(2, '0')}:${minute}`
}
export function clockWords(iso: string): string {
  const [hour, minute] = [Number(iso.slice(11, 13)), iso.slice(14, 16)]
  const half = `${hour % 12 || 12}:${minute} ${hour < 12 ? 'am' : 'pm'}`
  return `${dayWords(wall(iso))} · ${writing.clock === '12' ? half : iso.slice(11, 16)}`
}
export function isoDay(at: number): string {
  return new Date(at).toISOString().slice(0, 10)
}
