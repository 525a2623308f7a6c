import { area, line } from 'd3-shape'
import type { Schemas } from '../../api/client'
import { wall } from '../../parts/wall'
import { DAY } from './timeWindow'

type Probe = Schemas['ProbeStretch']
type Expected = { at: string; value: number; low: number; high: number }
const AIR = 0.12

/** Lowest and highest value of what lies in the window: marks, probes, what is expected; and the band where it is near. */
export function domain(
  strip: Schemas['Strip'],
  probes: Probe[],
  expected: Expected[],
  span: [number, number],
): [number, number] {
  const seen = (at: number) => at >= span[0] && at <= span[1]
  const values = strip.marks.filter((mark) => seen(wall(mark.at))).map((mark) => mark.value)
  for (const point of expected) if (seen(wall(point.at))) values.push(point.low, point.high)
  for (const probe of probes)
    probe.at.forEach((at, index) => seen(at) && values.push(probe.low[index]!, probe.high[index]!))
  const close = span[1] - span[0] < 3 * DAY && values.length > 1
  if (strip.band && !close) values.push(strip.band.low.value, strip.band.high.value)
  if (!values.length) return [strip.low, strip.high]
  const [low, high] = [Math.min(...values), Math.max(...values)]
  const air = (high - low) * AIR || Math.max(Math.abs(high), 1) * 0.02
  return [Math.max(Math.min(0, low), low - air), high + air]
}

type Row = [number, number, number, number]

/** A probe's columns cut where it was silent for long: moment, lowest, mean and highest. */
function pieces(probe: Probe): Row[][] {
  const usual = probe.span_s * 1000 || median(probe.at.slice(1).map((at, i) => at - probe.at[i]!))
  const found: Row[][] = []
  probe.at.forEach((at, i) => {
    if (!i || at - probe.at[i - 1]! > 3.5 * usual) found.push([])
    found.at(-1)!.push([at, probe.low[i]!, probe.mean[i]!, probe.high[i]!])
  })
  return found
}

function median(values: number[]): number {
  return [...values].sort((a, b) => a - b)[values.length >> 1] ?? Infinity
}

/** Two to four round values between which a strip without a band can be read. */
export function edges(strip: Schemas['Strip'], domain: [number, number]) {
  const within = (value: number) => value >= domain[0] && value <= domain[1]
  const band = strip.band ? [strip.band.low, strip.band.high].filter((edge) => within(edge.value)) : []
  if (band.length === 2) return band.map((edge) => ({ value: edge.value, text: edge.text, band: true }))
  const [low, high] = domain
  return [low + (high - low) * 0.15, high - (high - low) * 0.15].map((value) => {
    const text = value.toFixed(strip.decimals + (high - low < 2 * 10 ** -strip.decimals ? 1 : 0))
    return { value: Number(text), text, band: false }
  })
}

/** What a probe wrote as paths: the line of its means, and the ground between its extremes. */
export function drawn(probe: Probe, x: (at: number) => number, y: (value: number) => number) {
  const mean = line<Row>()
    .x((row) => x(row[0]))
    .y((row) => y(row[2]))
  const between = area<Row>()
    .x((row) => x(row[0]))
    .y0((row) => y(row[1]))
    .y1((row) => y(row[3]))
  return pieces(probe).map((piece) => ({ mean: mean(piece) ?? '', between: between(piece) ?? '' }))
}

/** The instruments of a strip, set from its right end: marks by their shape, probes by their line. */
export function legendOf(instruments: string[], probes: Probe[], right: number) {
  const names = [
    ...instruments.map((name) => ({ name, probe: false })),
    ...probes.filter((each) => each.at.length).map((each) => ({ name: each.instrument, probe: true })),
  ]
  let x = right
  const placed = names.reverse().map(({ name, probe }) => {
    x -= name.length * 5.6 + 24
    return { name, probe, x }
  })
  return placed.reverse()
}
