import type { Schemas } from '../../api/client'

type Setting = 'volume' | 'length' | 'mass' | 'decimal_sign' | 'days' | 'clock' | 'week' | 'gallon'
/** What is written in one of several ways: the setting, its name, and the ways. */
export const WRITTEN: [Setting, string, [string, string][]][] = [
  [
    'volume',
    'Water in',
    [
      ['L', 'litres'],
      ['US gal', 'US gallons'],
      ['imp gal', 'imperial gallons'],
    ],
  ],
  [
    'length',
    'Lengths in',
    [
      ['cm', 'centimetres'],
      ['in', 'inches'],
    ],
  ],
  [
    'mass',
    'Weights in',
    [
      ['g', 'grams and kilograms'],
      ['oz', 'ounces and pounds (grams below an ounce)'],
    ],
  ],
  [
    'decimal_sign',
    'Decimal sign',
    [
      ['.', 'point: 8.2'],
      [',', 'comma: 8,2'],
    ],
  ],
  [
    'days',
    'Dates',
    [
      ['day_first', '24 Nov'],
      ['month_first', 'Nov 24'],
      ['iso', '2026-11-24'],
    ],
  ],
  [
    'clock',
    'Times',
    [
      ['24', '17:40'],
      ['12', '5:40 pm'],
    ],
  ],
  [
    'week',
    'The week begins on',
    [
      ['monday', 'Monday'],
      ['sunday', 'Sunday'],
      ['saturday', 'Saturday'],
    ],
  ],
  [
    'gallon',
    'A typed “gal” means',
    [
      ['ask', 'ask me'],
      ['us', 'US gallon, 3.785 L'],
      ['imperial', 'imperial gallon, 4.546 L'],
    ],
  ],
]
export const items = (ways: [string, string][]) => ways.map(([value, title]) => ({ value, title }))
export const SCALES = [
  { title: '0.01 g', value: 0.01 },
  { title: '0.05 g', value: 0.05 },
  { title: '0.1 g', value: 0.1 },
  { title: '0.5 g', value: 0.5 },
  { title: '1 g', value: 1 },
]
export const ADDITIVES = [
  { title: 'soda ash, Na₂CO₃: stronger, lifts pH', value: 'soda_ash' },
  { title: 'baking soda, NaHCO₃: gentle on pH', value: 'baking_soda' },
]

/** What a preset sets. */
export function presetBody(preset: Schemas['PresetShown']) {
  const how = Object.fromEntries(WRITTEN.map(([key]) => [key, preset[key]]))
  return { ...(how as Pick<Schemas['PresetShown'], Setting>), units: preset.units }
}
