import type { Outline } from '../generated/types'

/** Outlines offered for frames and for what lies behind words. */
export const frameShapes: { value: string; name: string; outline: Outline }[] = [
  { value: 'rect', name: 'Rectangle', outline: { kind: 'rect', radius: 0 } },
  { value: 'ellipse', name: 'Ellipse', outline: { kind: 'ellipse' } },
  { value: 'arch', name: 'Arch', outline: { kind: 'arch' } },
  { value: 'polygon', name: 'Hexagon', outline: { kind: 'polygon', points: 6 } },
  { value: 'star', name: 'Seal', outline: { kind: 'star', points: 24, depth: 120_000_000 } },
  { value: 'ribbon', name: 'Ribbon', outline: { kind: 'ribbon', notch: 350_000_000 } },
  { value: 'ticket', name: 'Ticket', outline: { kind: 'ticket', bite: 180_000_000 } },
  { value: 'speech', name: 'Speech panel', outline: { kind: 'speech', tail: 200_000_000 } },
  { value: 'blob', name: 'Blob', outline: { kind: 'blob', seed: 3 } },
  { value: 'torn', name: 'Torn strip', outline: { kind: 'torn', seed: 5, depth: 220_000_000 } },
]
