/** The places of the app with the keys that lead to them; those of one system lead to the current one. */
export function placesOf(system: number | undefined) {
  const params = { system }
  return [
    { name: 'Harbour', key: 'h', to: { name: 'harbour' } },
    { name: 'Sheet', key: 's', to: { name: 'sheet', params }, parts: ['confidence'] },
    { name: 'Bench', key: 'b', to: { name: 'bench', params } },
    { name: 'Change', key: 'c', to: { name: 'change', params } },
    { name: 'Mix', key: 'm', to: { name: 'mix' } },
    { name: 'Rota', key: 'r', to: { name: 'rota' }, parts: ROTA_PARTS },
    { name: 'Dosing', key: 'd', to: { name: 'dosing', params }, parts: DOSING_PARTS },
    { name: 'What-if', key: 'w', to: { name: 'what-if', params } },
    { name: 'Log', key: 'g', to: { name: 'log' } },
    { name: 'Shelf', key: 'f', to: { name: 'shelf' }, parts: ['gear'] },
    { name: 'Set-up', key: 'u', to: { name: 'setup', params } },
  ]
}

/** The other pages of the Rota. */
const ROTA_PARTS = ['round', 'year', 'time', 'calendar', 'hand-over', 'tasks', 'task']

/** The other pages of Dosing. */
const DOSING_PARTS = ['correction', 'day-night', 'containers', 'stock']

/** Places of all systems together: nothing to choose a system for. */
export const WITHOUT_RAIL = [
  'harbour',
  'run',
  'mix',
  'batch',
  'label',
  'rota',
  'round',
  'year',
  'time',
  'calendar',
  'hand-over',
  'shelf',
  'gear',
  'log',
  'settings',
  'new-system',
  'lost',
]
