import { later } from './later'

/** What floats over the page. */
const floating = () => import('./floating')

export const OptionList = later(() => floating().then((m) => m.OptionList))
export const ActMenu = later(() => floating().then((m) => m.ActMenu))
