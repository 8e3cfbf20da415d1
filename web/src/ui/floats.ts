import { later } from './later'

/** What floats over the page, fetched when nothing else is to be done, or when the first is opened. */
export const floating = () => import('./floating')

export const OptionList = later(() => floating().then((m) => m.OptionList))
export const ActMenu = later(() => floating().then((m) => m.ActMenu))
