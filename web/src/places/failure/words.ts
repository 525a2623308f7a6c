/** The parts of a chain that stops the top-off, as they are named on the screen. */
export const SENSES = [
  { title: 'float switch', value: 'float' },
  { title: 'second float switch', value: 'float_2' },
  { title: 'optical sensor', value: 'optical' },
  { title: 'pressure sensor', value: 'pressure' },
  { title: 'run-time limit', value: 'clock' },
  { title: 'leak sensor', value: 'leak' },
  { title: 'salinity probe', value: 'salinity' },
]
export const CUT_OFFS = [
  { title: 'the pump’s own switch', value: 'pump' },
  { title: 'a second switch in its supply', value: 'second_plug' },
  { title: 'a float valve in the line', value: 'float_valve' },
  { title: 'an electric valve', value: 'electric_valve' },
  { title: 'a shut-off that closes by a spring', value: 'leak_valve' },
]
export const LIDS = [
  { title: 'open', value: 'open' },
  { title: 'half covered', value: 'half' },
  { title: 'closed lid', value: 'closed' },
]
