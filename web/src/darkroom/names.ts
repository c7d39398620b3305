import type { Blend } from '../generated/types'

/** What ways of mixing are called. */
export const blendNames: Record<Blend, string> = {
  normal: 'Covers',
  multiply: 'Multiply',
  screen: 'Screen',
  overlay: 'Overlay',
  darken: 'Darken',
  lighten: 'Lighten',
  colorDodge: 'Colour dodge',
  colorBurn: 'Colour burn',
  hardLight: 'Hard light',
  softLight: 'Soft light',
  difference: 'Difference',
  exclusion: 'Exclusion',
  hue: 'Hue',
  saturation: 'Saturation',
  color: 'Colour',
  luminosity: 'Luminosity',
}
