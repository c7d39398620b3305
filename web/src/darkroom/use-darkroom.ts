import { useDebounceFn } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'
import { api, type Treated } from '../api/client'
import type { DarkroomCard, PrintCard, RecipeCard, Treatment } from '../generated/types'
import { useBench } from '../stores/bench'
import { useNotices } from '../stores/notices'

const offered = shallowRef<DarkroomCard | null>(null)

/** What is being treated: its steps as they are and as a hand is just setting them, and what it looks like. */
export function useDarkroom(of: Treated) {
  const bench = useBench()
  const notices = useNotices()
  const kept = computed<Treatment[]>(
    () =>
      (of.group ? bench.side?.group_looks?.find((look) => look.group === of.group)?.treatments : bench.plain(of.item)?.look.treatments) ??
      [],
  )
  const target = { items: [of.item], ...(of.group ? { group: of.group } : {}) }
  /** Steps while a hand is at one of them. */
  const trying = shallowRef<Treatment[] | null>(null)
  const steps = computed(() => trying.value ?? kept.value)
  const open = ref<number | null>(null)
  const print = shallowRef<PrintCard | null>(null)
  const before = shallowRef<PrintCard | null>(null)
  const recipes = shallowRef<RecipeCard[]>([])
  /** Pixels across of what is shown: fewer while a hand is at it, so that it follows; whole once it pauses. */
  const width = 1_280
  const quick = 960

  const loadRecipes = async () => {
    recipes.value = await api.recipes(bench.job!.id, of, 160)
  }
  /** Whether something was done here. */
  const began = JSON.stringify(kept.value)
  const changed = computed(() => JSON.stringify(kept.value) !== began)
  async function load() {
    try {
      offered.value ??= await api.darkroom()
      before.value = await api.print(bench.job!.id, of, [], width)
      await loadRecipes()
    } catch (error) {
      notices.report(error)
    }
  }

  // One picture is made at a time; of what was asked for meanwhile only the newest is made.
  let making = false
  let wanted: { steps: Treatment[]; wide: number } | null = null
  async function show(steps: Treatment[], wide: number) {
    wanted = { steps, wide }
    if (making) return
    making = true
    try {
      while (wanted) {
        const next: { steps: Treatment[]; wide: number } = wanted
        wanted = null
        const found = await api.print(bench.job!.id, of, next.steps, next.wide)
        // What is shown is there when it is shown.
        const image = new Image()
        image.src = found.address
        await image.decode().catch(() => {})
        print.value = found
      }
    } catch (error) {
      notices.report(error)
    } finally {
      making = false
    }
  }
  // What of the picture is seen belongs to it.
  const cut = computed(() => bench.plain(of.item)?.look.cut_out)
  const paused = useDebounceFn(() => {
    if (trying.value) void show(steps.value, width)
  }, 180)
  watch(
    [steps, cut],
    () => {
      void show(steps.value, trying.value ? quick : width)
      if (trying.value) void paused()
    },
    { immediate: true },
  )
  // What was tried is over once it is kept, or once something else is.
  watch(kept, () => {
    trying.value = null
  })

  function change(at: number, by: Partial<Treatment>): Treatment[] {
    return steps.value.map((step, n) => (n === at ? { ...step, ...by } : step))
  }
  const tryOut = (at: number, by: Partial<Treatment>) => {
    trying.value = change(at, by)
  }
  async function set(at: number, by: Partial<Treatment>) {
    const step = change(at, by)[at]
    if (!step) return
    trying.value = change(at, by)
    if (!(await bench.act({ act: 'setStep', ...target, at, step }))) trying.value = null
  }
  async function add(kind: string, over?: string) {
    if (!(await bench.act({ act: 'addStep', ...target, kind, ...(over ? { over } : {}) }))) return
    open.value = kept.value.length - 1
  }
  async function drop(at: number) {
    open.value = null
    await bench.act({ act: 'dropStep', ...target, at })
  }
  async function move(at: number, to: number) {
    if (await bench.act({ act: 'moveStep', ...target, at, to })) open.value = open.value === at ? to : open.value
  }
  return { offered, kept, steps, open, print, before, recipes, target, load, loadRecipes, changed, tryOut, set, add, drop, move }
}
