import { shallowRef } from 'vue'
import { writing } from './numbers'
import { dateWords, dayWords, isoDay } from './wall'

/** The keeper's today, in the household's zone; the browser's until the app is known. */
export const today = shallowRef(isoDay(Date.now() - new Date().getTimezoneOffset() * 60_000))
const DAY = 86_400_000
const WEEKDAYS = ['sun', 'mon', 'tue', 'wed', 'thu', 'fri', 'sat']
const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec']
const NAMED: Record<string, number> = { today: 0, yesterday: -1, tomorrow: 1 }
const midnight = (iso: string) => Date.parse(`${iso}T00:00:00Z`)

function real(year: number, month: number, day: number): string | undefined {
  const at = Date.UTC(year, month - 1, day)
  return new Date(at).getUTCDate() === day && month >= 1 && month <= 12 ? isoDay(at) : undefined
}
/** Without its year a date is the nearest one: this year's, or last or next year's where that is nearer. */
function nearest(month: number, day: number, year?: string): string | undefined {
  const now = midnight(today.value)
  const here = Number(today.value.slice(0, 4))
  if (year) return real(year.length === 2 ? 2000 + Number(year) : Number(year), month, day)
  const all = [here - 1, here, here + 1].map((one) => real(one, month, day)).filter((one) => !!one)
  return all.sort((a, b) => Math.abs(midnight(a!) - now) - Math.abs(midnight(b!) - now))[0]
}
function weekday(name: string, ahead: boolean): string {
  const now = midnight(today.value)
  const back = (new Date(now).getUTCDay() - WEEKDAYS.indexOf(name.slice(0, 3)) + 7) % 7
  return isoDay(ahead ? now + ((7 - back) % 7) * DAY : now - back * DAY)
}
function numbered(one: string, two: string, year?: string): string | undefined {
  const [day, month] = writing.days === 'month_first' ? [two, one] : [one, two]
  return nearest(Number(month), Number(day), year)
}

/** A day as typed: "yesterday", "sat", "24 Nov", "Nov 24", "24/11" in the keeper's order, "in 3 days", or ISO. */
export function readDay(text: string, ahead = false): string | undefined {
  const said = text
    .trim()
    .toLowerCase()
    .replace(/^(on|last|next)\s+/, '')
    .replace(/(\d)(st|nd|rd|th)\b/, '$1')
    .replace(/,/g, ' ')
    .replace(/\s+/g, ' ')
  const by = (days: number) => isoDay(midnight(today.value) + days * DAY)
  if (said in NAMED) return by(NAMED[said]!)
  let found = /^(\d{4})-(\d\d?)-(\d\d?)$/.exec(said)
  if (found) return real(Number(found[1]), Number(found[2]), Number(found[3]))
  found = /^(\d+) days? ago$/.exec(said)
  if (found) return by(-Number(found[1]))
  found = /^in (\d+) days?$/.exec(said)
  if (found) return by(Number(found[1]))
  found = /^(sun|mon|tue|wed|thu|fri|sat)[a-z]*( |$)/.exec(said)
  if (found?.[0] === said) return weekday(said, ahead)
  const dated = found ? said.slice(found[0].length) : said
  found = /^(\d\d?)[./-](\d\d?)(?:[./-](\d{4}|\d\d))?\.?$/.exec(dated)
  if (found) return numbered(found[1]!, found[2]!, found[3])
  found = /^(\d\d?)\.? ([a-z]{3,9})(?: (\d{4}))?$/.exec(dated)
  const named = found ?? /^([a-z]{3,9}) (\d\d?)(?: (\d{4}))?$/.exec(dated)
  if (!named) return undefined
  const [day, month] = found ? [named[1]!, named[2]!] : [named[2]!, named[1]!]
  const place = MONTHS.indexOf(month.slice(0, 3))
  return place < 0 ? undefined : nearest(place + 1, Number(day), named[3])
}

/** A day as it stands in a field: "Tue 24 Nov", with its year where that is another one; what is no day as it is. */
export function writtenDay(iso: string | null | undefined): string {
  if (!iso || !/^\d{4}-\d\d-\d\d$/.test(iso)) return iso ?? ''
  const at = midnight(iso)
  return iso.slice(0, 4) === today.value.slice(0, 4) ? dayWords(at) : dateWords(new Date(at), true)
}

/** A time as typed, as HH:MM: "21:00", "9:30 pm", "9pm", "21.00". */
export function readTime(text: string): string | undefined {
  const found = /^(\d\d?)(?:[:.h](\d\d))? ?(am|pm|a\.m\.|p\.m\.)?$/.exec(text.trim().toLowerCase())
  if (!found || (!found[2] && !found[3])) return undefined
  const [hour, minute] = [Number(found[1]), Number(found[2] ?? 0)]
  if (found[3] && (hour < 1 || hour > 12)) return undefined
  const whole = found[3] ? (hour % 12) + (found[3].startsWith('p') ? 12 : 0) : hour
  return whole > 23 || minute > 59 ? undefined : `${two(whole)}:${two(minute)}`
}
const two = (number: number) => String(number).padStart(2, '0')

/** A time as it stands in a field, in the keeper's clock. */
export function writtenTime(time: string): string {
  const found = /^(\d\d):(\d\d)/.exec(time)
  if (!found || writing.clock === '24') return time.slice(0, 5)
  const hour = Number(found[1])
  return `${hour % 12 || 12}:${found[2]} ${hour < 12 ? 'am' : 'pm'}`
}
