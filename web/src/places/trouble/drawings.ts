/** Line drawings of what a trouble looks like, on a board of 64 × 48: a ground line, and what grows on it. */
const GROUND = 'M4 42 H60'
const ROCK = 'M8 42 C10 30 20 26 28 30 C34 22 50 24 56 42'
const WAVES = 'M4 8 q7 -5 14 0 t14 0 t14 0 t14 0'
const TANK = 'M8 6 V42 H56 V6'

export const DRAWINGS: Record<string, string[]> = {
  film: [GROUND, 'M8 40 C16 32 26 34 32 38 C40 31 50 33 57 40', 'M20 36 q5 -6 10 -2 M40 36 q5 -5 9 -1'],
  strands: [
    ROCK,
    'M18 29 q4 -9 -2 -18 M27 29 q-5 -10 3 -22 M38 26 q5 -8 0 -19 M47 30 q-3 -9 4 -15',
    'M16 10 a2 2 0 1 0 .1 0 M31 6 a2 2 0 1 0 .1 0 M39 6 a2 2 0 1 0 .1 0 M51 14 a2 2 0 1 0 .1 0',
  ],
  hair: [
    ROCK,
    'M14 32 l-3 -10 M18 29 l0 -12 M22 28 l4 -11 M28 29 l-2 -13 M33 26 l3 -13 M38 25 l-1 -12 M43 26 l5 -10 M49 30 l4 -8',
  ],
  bubbles: [
    ROCK,
    'M20 26 a5 5 0 1 0 .1 0 M31 24 a4 4 0 1 0 .1 0 M42 22 a6 6 0 1 0 .1 0 M50 32 a3 3 0 1 0 .1 0',
    'M18 28 l2 -1 M40 25 l2 -1',
  ],
  dust: [
    GROUND,
    'M10 39 h.1 M15 37 h.1 M20 39 h.1 M26 36 h.1 M31 39 h.1 M36 37 h.1 M42 39 h.1 M47 36 h.1 M52 39 h.1',
    'M12 33 h.1 M23 32 h.1 M34 33 h.1 M45 32 h.1',
  ],
  cloud: [TANK, 'M14 18 h12 M30 16 h16 M18 24 h20 M42 24 h8 M14 30 h10 M28 31 h20 M20 37 h24'],
  surface: [TANK, 'M8 14 H56', 'M14 14 q4 4 8 0 M28 14 q6 5 12 0 M44 14 q3 3 6 0'],
  yellow: [TANK, 'M8 12 H56', 'M32 19 a7 7 0 1 0 .1 0 M32 17 v-3 M32 36 v3 M22 26 h-3 M42 26 h3'],
  flakes: [
    WAVES,
    'M16 18 l4 4 m0 -4 l-4 4 M34 16 l4 4 m0 -4 l-4 4 M48 24 l4 4 m0 -4 l-4 4 M24 30 l4 4 m0 -4 l-4 4 M40 36 l4 4 m0 -4 l-4 4',
  ],
  salt: [
    'M8 16 V42 M56 16 V42 M8 42 H56 M8 22 H56',
    'M6 16 l3 -5 l3 4 l4 -6 l3 7 M45 16 l3 -6 l3 4 l4 -5 l3 7',
  ],
  muck: [
    GROUND,
    'M6 42 C12 30 22 32 26 42',
    'M12 38 h.1 M16 36 h.1 M19 39 h.1',
    'M34 30 q6 -5 12 0 M36 24 q8 -6 16 0',
  ],
  foam: [
    'M22 44 V20 H42 V44',
    'M24 18 a4 4 0 1 1 .1 0 M33 14 a5 5 0 1 1 .1 0 M41 18 a4 4 0 1 1 .1 0',
    'M20 24 q-6 4 -5 12 M44 24 q6 4 5 12',
  ],
  plants: [
    GROUND,
    'M18 42 C18 30 10 26 12 16 M18 36 q6 -4 8 -12',
    'M40 42 C42 32 36 26 44 22 q8 -2 10 6',
    'M46 34 l4 3 m2 -6 l4 3',
  ],
  corals: [
    GROUND,
    'M20 42 V30 M20 30 q-8 -2 -8 -10 M20 30 q0 -8 0 -12 M20 30 q8 -2 8 -10',
    'M44 42 V34 q-6 -3 -3 -8 q3 3 6 0 q3 5 -3 8',
    'M41 20 l2 2 M46 18 l-1 3',
  ],
  losses: [WAVES, 'M16 28 q10 -10 22 0 q-12 10 -22 0 M38 28 l8 -6 v12 z', 'M21 25 l4 4 m0 -4 l-4 4'],
  pests: [
    ROCK,
    'M20 24 q5 -4 9 0 q-4 4 -9 0 M36 20 q5 -4 9 0 q-4 4 -9 0 M44 32 q5 -4 9 0 q-4 4 -9 0 M28 36 q5 -4 9 0 q-4 4 -9 0',
  ],
  numbers: ['M24 6 h16 M28 6 V36 a4 4 0 0 0 8 0 V6', 'M28 22 h8', 'M46 12 h8 M46 20 h8 M46 28 h8'],
}
