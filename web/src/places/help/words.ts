/** Words of the job as the app uses them, explained once. */
export const WORDS = {
  band: ['band', 'The range you want a parameter to stay in. Its middle is the aim: every plan leads there.'],
  net: [
    'net volume',
    'The water that is really there: the tank and sump less rock, sand and what stands empty.',
  ],
  uptake: [
    'uptake',
    'What corals and coralline algae take out of the water in a day, worked out from your tests, changes and doses together.',
  ],
  due: [
    'due',
    'The rota counts from the day a task was last done. It may be done a little early, and waits a little; then it is late.',
  ],
  round: ['round', 'A day’s tasks in the order that makes them shortest, over all tanks.'],
  mark: ['mark', 'How far the level on the glass falls when the planned water is out, with the pumps off.'],
  match: [
    'match',
    'New water goes in only when its temperature, salinity and alkalinity are close enough to the tank’s.',
  ],
  scatter: [
    '±',
    'How far repeated tests of the same water lie apart: about two of three fall within it, nineteen of twenty within twice it.',
  ],
  expected: [
    'dashed line',
    'Where a parameter is heading if you go on as now. The shading holds four of five outcomes.',
  ],
} as const satisfies Record<string, readonly [string, string]>
export type Word = keyof typeof WORDS
