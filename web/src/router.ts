import { BASE } from './parts/example'
import { createRouter, createWebHistory } from 'vue-router'

const system = (path: string, name: string, page: () => Promise<unknown>) => ({
  path: `/systems/:system(\\d+)/${path}`,
  name,
  component: page,
})

export const router = createRouter({
  history: createWebHistory(BASE || '/'),
  scrollBehavior: () => ({ top: 0 }),
  routes: [
    { path: '/', name: 'harbour', component: () => import('./places/harbour/HarbourPage.vue') },
    system('sheet', 'sheet', () => import('./places/sheet/SheetPage.vue')),
    system('bench', 'bench', () => import('./places/bench/BenchPage.vue')),
    system('change', 'change', () => import('./places/change/ChangePage.vue')),
    system('dosing', 'dosing', () => import('./places/dosing/RoutinePage.vue')),
    system('dosing/correction', 'correction', () => import('./places/dosing/CorrectionPage.vue')),
    system('dosing/day-night', 'day-night', () => import('./places/dosing/DayPage.vue')),
    system('dosing/containers', 'containers', () => import('./places/dosing/ContainersPage.vue')),
    system('dosing/stock', 'stock', () => import('./places/dosing/StockPage.vue')),
    system('tasks', 'tasks', () => import('./places/rota/TasksPage.vue')),
    system('tasks/:task', 'task', () => import('./places/rota/TaskPage.vue')),
    system('confidence', 'confidence', () => import('./places/confidence/ConfidencePage.vue')),
    system('kit', 'kit', () => import('./places/kit/KitPage.vue')),
    system('what-if', 'what-if', () => import('./places/whatif/WhatIfPage.vue')),
    system('pictures', 'pictures', () => import('./places/picture/PicturePage.vue')),
    system('setup', 'setup', () => import('./places/setup/SetupPage.vue')),
    system('plan/:cause', 'remedy', () => import('./places/remedy/RemedyPage.vue')),
    system('cases', 'cases', () => import('./places/remedy/CasesPage.vue')),
    { path: '/start', name: 'start', component: () => import('./places/start/StartPage.vue') },
    { path: '/setup', name: 'new-system', component: () => import('./places/setup/SetupPage.vue') },
    { path: '/rota', name: 'rota', component: () => import('./places/rota/RotaPage.vue') },
    { path: '/rota/year', name: 'year', component: () => import('./places/rota/YearPage.vue') },
    { path: '/rota/round', name: 'round', component: () => import('./places/rota/RoundPage.vue') },
    { path: '/rota/time', name: 'time', component: () => import('./places/rota/TimePage.vue') },
    { path: '/rota/calendar', name: 'calendar', component: () => import('./places/rota/CalendarPage.vue') },
    {
      path: '/rota/away/:away(\\d+)',
      name: 'hand-over',
      component: () => import('./places/rota/HandOverPage.vue'),
    },
    { path: '/visit/:rest(.*)', name: 'visit', component: () => import('./places/harbour/LostPage.vue') },
    { path: '/mix', name: 'mix', component: () => import('./places/mix/MixPage.vue') },
    {
      path: '/batches/:batch(\\d+)',
      name: 'batch',
      component: () => import('./places/mix/BatchPage.vue'),
    },
    {
      path: '/batches/:batch(\\d+)/label',
      name: 'label',
      component: () => import('./places/mix/LabelPage.vue'),
    },
    { path: '/runs/:run(\\d+)', name: 'run', component: () => import('./places/runbook/RunbookPage.vue') },
    { path: '/log', name: 'log', component: () => import('./places/log/LogPage.vue') },
    { path: '/gear', name: 'gear', component: () => import('./places/gear/GearPage.vue') },
    { path: '/shelf', name: 'shelf', component: () => import('./places/shelf/ShelfPage.vue') },
    { path: '/help', name: 'help', component: () => import('./places/help/HelpPage.vue') },
    { path: '/settings', name: 'settings', component: () => import('./places/setup/SettingsPage.vue') },
    { path: '/:rest(.*)*', name: 'lost', component: () => import('./places/harbour/LostPage.vue') },
  ],
})
