import {
  mdiAlarmLightOutline,
  mdiAnchor,
  mdiBookOpenVariant,
  mdiBucketOutline,
  mdiCalendarCheckOutline,
  mdiChartTimelineVariant,
  mdiClipboardCheckOutline,
  mdiCogOutline,
  mdiEyedropper,
  mdiHelpCircleOutline,
  mdiLifebuoy,
  mdiMagnifyScan,
  mdiPailOutline,
  mdiScaleBalance,
  mdiShieldAlertOutline,
  mdiSproutOutline,
  mdiTestTube,
  mdiTools,
  mdiWaterOutline,
  mdiWaterSync,
  mdiTuneVariant,
  mdiArchiveOutline,
  mdiFormatListChecks,
} from '@mdi/js'
import type { RouteLocationRaw } from 'vue-router'

/** A place of the app. key: leads there · parts: other pages of it, by the name of their route. */
export interface Place {
  name: string
  icon: string
  to: RouteLocationRaw
  key?: string
  parts?: readonly string[]
  /** What it is for, said where there is no tank yet. */
  about?: string
  /** Only in the menu: a page of another place. */
  inside?: boolean
}
export interface PlaceGroup {
  name: string
  places: Place[]
}

/** The places of the app by the work they are for; those of one system lead to the current one. */
export function placeGroups(system: number | undefined): PlaceGroup[] {
  const params = { system }
  return [
    {
      name: 'Today',
      places: [
        { name: 'Harbour', icon: mdiAnchor, key: 'h', to: { name: 'harbour' } },
        { name: 'Rota', icon: mdiCalendarCheckOutline, key: 'r', to: { name: 'rota' }, parts: ROTA_PARTS },
        { name: 'Round', icon: mdiFormatListChecks, key: 'o', to: { name: 'round' }, inside: true },
        {
          name: 'What is it?',
          about: 'What is it? recognises algae, films and other troubles by a few taps.',
          icon: mdiMagnifyScan,
          key: 'x',
          to: { name: 'trouble', params },
          inside: true,
        },
        {
          name: 'Programmes',
          about:
            'Programmes are weeks of work against algae and films, phase by phase, with the amounts of the tank.',
          icon: mdiSproutOutline,
          to: { name: 'programmes', params },
          parts: ['programme'],
          inside: true,
        },
        {
          name: 'What can fail',
          about:
            'What can fail shows what happens to the tank when a pump, a heater or the power fails, and what prevents it.',
          icon: mdiShieldAlertOutline,
          to: { name: 'failures', params },
          parts: ['installation'],
          inside: true,
        },
        {
          name: 'Alarms',
          icon: mdiAlarmLightOutline,
          to: { name: 'alarms' },
          parts: ['limits'],
          inside: true,
        },
        {
          name: 'Emergency',
          about: 'Emergency says what to do first when something goes wrong, with the amounts of the tank.',
          icon: mdiLifebuoy,
          key: '!',
          to: { name: 'emergencies', params },
          parts: ['emergency-sheet'],
          inside: true,
        },
      ],
    },
    {
      name: 'Water',
      places: [
        {
          name: 'Sheet',
          about:
            'The Sheet shows one tank through time: each parameter in its band, what was done, and where it is heading.',
          icon: mdiChartTimelineVariant,
          key: 's',
          to: { name: 'sheet', params },
          parts: ['confidence', 'pictures'],
        },
        {
          name: 'Bench',
          about: 'The Bench is for test results: one row per parameter, judged as you type.',
          icon: mdiTestTube,
          key: 'b',
          to: { name: 'bench', params },
        },
        {
          name: 'Change',
          about: 'Change plans a water change: litres, salt, additives, and the water before and after.',
          icon: mdiBucketOutline,
          key: 'c',
          to: { name: 'change', params },
        },
        {
          name: 'Top-off',
          about: 'Top-off shows what evaporates, how long the reservoir lasts, and what stops it.',
          icon: mdiWaterSync,
          to: { name: 'top-off', params },
          inside: true,
        },
        { name: 'Mix', icon: mdiPailOutline, key: 'm', to: { name: 'mix' }, parts: ['batch', 'label'] },
        {
          name: 'Dosing',
          about: 'Dosing shows what the animals use a day and the dose that replaces it.',
          icon: mdiEyedropper,
          key: 'd',
          to: { name: 'dosing', params },
          parts: DOSING_PARTS,
        },
        {
          name: 'What-if',
          about: 'What-if compares plans for the weeks ahead side by side.',
          icon: mdiScaleBalance,
          key: 'w',
          to: { name: 'what-if', params },
        },
      ],
    },
    {
      name: 'Record',
      places: [
        { name: 'Log', icon: mdiBookOpenVariant, key: 'g', to: { name: 'log' }, parts: ['plans'] },
        { name: 'Plans', icon: mdiClipboardCheckOutline, to: { name: 'plans' }, inside: true },
      ],
    },
    {
      name: 'Set-up',
      places: [
        { name: 'Shelf', icon: mdiArchiveOutline, key: 'f', to: { name: 'shelf' }, parts: ['gear'] },
        { name: 'Fresh water', icon: mdiWaterOutline, to: { name: 'fresh-water' }, inside: true },
        { name: 'Gear', icon: mdiTools, to: { name: 'gear' }, inside: true },
        {
          name: 'Set-up',
          icon: mdiTuneVariant,
          key: 'u',
          to: system ? { name: 'setup', params } : { name: 'start' },
          parts: ['new-system', 'start', 'kit'],
        },
        { name: 'Settings', icon: mdiCogOutline, to: { name: 'settings' }, inside: true },
        { name: 'How it thinks', icon: mdiHelpCircleOutline, to: { name: 'help' }, inside: true },
      ],
    },
  ]
}

/** The places that stand in the bar. */
export function placesOf(system: number | undefined): Place[] {
  return placeGroups(system)
    .flatMap((group) => group.places)
    .filter((place) => !place.inside)
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
  'fresh-water',
  'alarms',
  'log',
  'settings',
  'help',
  'new-system',
  'start',
  'lost',
]
