import { useDark } from '@vueuse/core'

/** Whether the dark light is on: as chosen, else as the system has it. */
export const useDarkLight = () =>
  useDark({ selector: 'html', attribute: 'data-light', valueDark: 'dark', valueLight: 'paper', storageKey: 'light' })
