const DAY = 86_400_000
const time = (day: string) => Date.parse(`${day}T00:00:00Z`)
const NAMES = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec']

/** Where a day stands between two others, in percent. */
export function placeOf(day: string, first: string, last: string): number {
  return ((time(day) - time(first)) / (time(last) - time(first))) * 100
}

/** The first day of every month between two days, with its name; of January the year. */
export function monthsOf(first: string, last: string): { day: string; name: string }[] {
  const months = []
  for (let at = time(first); at <= time(last); at += DAY) {
    const day = new Date(at)
    if (day.getUTCDate() !== 1) continue
    const name = day.getUTCMonth() ? NAMES[day.getUTCMonth()]! : String(day.getUTCFullYear())
    months.push({ day: day.toISOString().slice(0, 10), name })
  }
  return months
}
