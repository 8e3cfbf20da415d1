import { later } from './later'

export const AskName = later(() => import('./AskName').then((m) => m.AskName))
export const Plain = later(() => import('./Plain').then((m) => m.Plain))
