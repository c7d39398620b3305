import { defineStore } from 'pinia'
import { ref } from 'vue'
import { api } from '../api/client'
import type { Family, Kept, PictureCard } from '../generated/types'
import { useBench } from './bench'
import { useNotices } from './notices'

const loaded = new Set<string>()

/** Pictures and families at hand. */
export const useShelf = defineStore('shelf', () => {
  const pictures = ref<PictureCard[]>([])
  const families = ref<Family[]>([])
  /** What is kept for all jobs. */
  const kept = ref<Kept>({ sets: [], formats: [], words: [], names: '', at_once: 0 })
  const uploading = ref(0)
  const notices = useNotices()

  async function loadFamilies() {
    families.value = await api.families().catch(() => families.value)
  }

  async function loadKept() {
    kept.value = await api.kept().catch(() => kept.value)
  }

  async function load() {
    try {
      const [shelf, type] = await Promise.all([api.pictures(), families.value.length ? families.value : api.families()])
      pictures.value = shelf
      families.value = type
    } catch (error) {
      notices.report(error)
    }
  }

  /** Keeps picture files; each that cannot be used is reported and the others are kept. */
  async function bring(files: Iterable<File | Blob>): Promise<PictureCard[]> {
    const brought: PictureCard[] = []
    for (const file of files) {
      uploading.value += 1
      try {
        const name = file instanceof File && file.name ? file.name : 'Pasted picture'
        const card = await api.takePicture(file, name)
        brought.push(card)
        pictures.value = [card, ...pictures.value.filter((other) => other.id !== card.id)]
      } catch (error) {
        notices.report(error)
      } finally {
        uploading.value -= 1
      }
    }
    return brought
  }

  /** Reads an SVG file onto the side on the stage; what was left out is said. */
  async function bringDrawing(file: File | Blob, name = file instanceof File ? file.name : 'Drawing', at?: { x: number; y: number }) {
    const bench = useBench()
    try {
      const { drawing, layers, notes } = await api.readDrawing(file, name)
      await bench.add(
        layers.length && !bench.replacing
          ? { kind: 'layers', layers, width: drawing.width, height: drawing.height }
          : { kind: 'drawing', drawing },
        undefined,
        at,
      )
      if (notes.length) notices.say(notes.join(' '))
    } catch (error) {
      notices.report(error)
    }
  }

  /** Keeps font files; each that cannot be used is reported. Returns the family of the last one. */
  async function bringFonts(files: Iterable<File>): Promise<Family | null> {
    let brought: Family | null = null
    for (const file of files) {
      try {
        brought = await api.takeFont(file)
        loaded.delete(brought.family)
      } catch (error) {
        notices.report(error)
      }
    }
    if (brought) families.value = await api.families()
    return brought
  }

  async function dropFamily(family: string) {
    try {
      await api.dropFamily(family)
      families.value = await api.families()
    } catch (error) {
      notices.report(error)
    }
  }

  const picture = (id: string) => pictures.value.find((card) => card.id === id)

  /** Makes the regular face of a family available to the page's own text, for specimens. */
  function showFamily(family: Family) {
    if (loaded.has(family.family)) return
    loaded.add(family.family)
    const face = family.faces.toSorted(
      (a, b) => Math.abs(a.weight - 400) - Math.abs(b.weight - 400) || Number(a.italic) - Number(b.italic),
    )[0]
    if (!face) return
    const font = new FontFace(`specimen ${family.family}`, `url(/type/${face.file})`)
    document.fonts.add(font)
    font.load().catch(() => loaded.delete(family.family))
  }

  return {
    pictures,
    families,
    kept,
    uploading,
    load,
    loadFamilies,
    loadKept,
    bring,
    bringDrawing,
    bringFonts,
    dropFamily,
    picture,
    showFamily,
  }
})
