import type {
  AboutCard,
  ActRequest,
  ActResponse,
  Arrangements,
  Checked,
  Clipping,
  ClothCard,
  DarkroomCard,
  DesignCard,
  DrawingCard,
  Eyes,
  Family,
  FileCard,
  Filling,
  Finding,
  FittedSize,
  FoundSubject,
  Good,
  GraphicsFound,
  GridCard,
  HandOverRequest,
  HandedCard,
  JobCard,
  Kept,
  Likeness,
  ListCard,
  ListedFiles,
  LockUpCard,
  MeasureRequest,
  MosaicRequest,
  NextCard,
  NextRequest,
  OpenJob,
  OrderCard,
  OrderWish,
  OwnFormat,
  Pace,
  Palette,
  PictureCard,
  PlaceEntry,
  PlanCard,
  PrintWish,
  ProofCard,
  QuoteCard,
  SheetSetup,
  ShopCard,
  SheetStart,
  PlaceFound,
  PrintCard,
  Problem,
  Reading,
  Recipe,
  RecipeCard,
  RecipeCodeCard,
  RepeatCard,
  SeenCard,
  SideColours,
  SnapStops,
  StageDelta,
  StartRequest,
  StateCard,
  TraceCard,
  TraceWish,
  Treatment,
  Typed,
  WayCard,
  WorkCard,
} from '../generated/types'

/** A problem the server reported, or that it could not be reached. */
export class ApiProblem extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail)
  }
}

/** Questions and acts on their way; while there are any the page is busy. */
let asking = 0

function busy(by: number) {
  asking += by
  document.body.setAttribute('aria-busy', String(asking > 0))
}

const unreachable: Problem = {
  type: 'unreachable',
  status: 0,
  title: 'No answer',
  detail: 'The program does not answer. Everything kept so far is safe; start it again and reload this page.',
}

/** What tells this window from others: those who ask take turns. */
const ownWindow = Math.random().toString(36).slice(2, 10)

async function send(path: string, init?: RequestInit): Promise<Response> {
  let response: Response
  // What changes something says that it comes from our own page.
  const own = init?.method && init.method !== 'GET' ? { ...init, headers: { ...init.headers, 'X-Vatman': ownWindow } } : init
  busy(1)
  try {
    response = await fetch(path, own)
  } catch {
    throw new ApiProblem(unreachable)
  } finally {
    busy(-1)
  }
  if (response.ok) return response
  const problem = await response.json().catch(() => null)
  throw new ApiProblem((problem as Problem | null) ?? { ...unreachable, status: response.status })
}

/** What was typed as it was read, or why it means nothing. */
function read<T>(typed: Typed<T>): T {
  if ('value' in typed) return typed.value
  throw new ApiProblem({ type: 'unread', status: 200, title: 'Not read', detail: typed.says })
}

async function ask<T>(path: string, method = 'GET', body?: unknown): Promise<T> {
  const init: RequestInit = { method }
  if (body !== undefined) {
    init.headers = { 'Content-Type': 'application/json' }
    init.body = JSON.stringify(body)
  }
  const response = await send(path, init)
  return response.status === 204 ? (undefined as T) : ((await response.json()) as T)
}

/** A file in answer to a wish. */
async function blob(path: string, wish: unknown): Promise<Blob> {
  return (await send(path, { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(wish) })).blob()
}

const job = (id: string) => `/api/jobs/${encodeURIComponent(id)}`

/** Where artwork is looked at: on which thing, in which of its areas, in which colour. */
export interface Worn {
  good: string
  area: number
  colour: string
}
const worn = (of: Worn) => new URLSearchParams({ good: of.good, area: String(of.area), colour: of.colour })

/** What is treated: an item, or the group it is in as a whole. */
export interface Treated {
  item: string
  group?: string
}
const grouped = (of: Treated, more: Record<string, string> = {}) =>
  new URLSearchParams({ ...more, ...(of.group ? { group: of.group } : {}) })

export const api = {
  about: () => ask<AboutCard>('/api/about'),
  licence: (of: string) => `/api/about/${encodeURIComponent(of)}`,
  board: () => ask<JobCard[]>('/api/jobs'),
  start: (wish: StartRequest) => ask<{ id: string }>('/api/jobs', 'POST', wish),
  open: (id: string) => ask<OpenJob>(job(id)),
  remove: (id: string) => ask<void>(job(id), 'DELETE'),
  restore: (id: string) => ask<void>(`${job(id)}/restore`, 'POST'),
  act: (id: string, request: ActRequest) => ask<ActResponse>(`${job(id)}/acts`, 'POST', request),
  rehearse: (id: string, request: ActRequest) => ask<ActResponse>(`${job(id)}/rehearse`, 'POST', request),
  since: (id: string, revision: number, watch: string | null, carets: string | null) =>
    ask<ActResponse | null>(
      `${job(id)}/since/${revision}?${new URLSearchParams({ ...(watch ? { watch } : {}), ...(carets ? { carets } : {}) })}`,
    ),
  states: (id: string) => ask<StateCard[]>(`${job(id)}/states`),
  putBack: (id: string, revision: number) => ask<void>(`${job(id)}/states/${revision}`, 'POST'),
  document: (id: string) => `${job(id)}/document`,
  lockUps: (id: string, item: string) => ask<LockUpCard[]>(`${job(id)}/items/${item}/lock-ups`),
  stops: (id: string, items: string[]) => ask<SnapStops>(`${job(id)}/stops`, 'POST', items),
  arrangements: (id: string, side: string, wish: MosaicRequest) => ask<Arrangements>(`${job(id)}/sides/${side}/arrangements`, 'POST', wish),
  findings: (id: string) => ask<Finding[]>(`${job(id)}/findings`),
  check: (id: string) => ask<Checked[]>(`${job(id)}/check`),
  /** Pieces whose files are larger than their places take; every such file is made for it. */
  checkFiles: (id: string) => ask<Checked[]>(`${job(id)}/check/files`),
  seen: (id: string) => ask<SeenCard[]>(`${job(id)}/seen`),
  eyes: () => ask<Eyes[]>('/api/eyes'),
  ways: (id: string, place: string, from?: string) =>
    ask<WayCard[]>(`${job(id)}/ways?${new URLSearchParams({ place, ...(from ? { from } : {}) })}`),
  /** A piece as it would be; the revision makes it another picture once the job has changed. */
  wayPicture: (id: string, place: string, way: number, w: number, revision: number, from?: string) =>
    `${job(id)}/ways/picture?${new URLSearchParams({ place, way: String(way), w: String(w), r: String(revision), ...(from ? { from } : {}) })}`,
  /** A piece in another design. */
  redesigned: (id: string, design: string, piece: string, w: number, revision: number) =>
    `${job(id)}/designs/${encodeURIComponent(design)}/picture?${new URLSearchParams({ piece, w: String(w), r: String(revision) })}`,
  repeats: (id: string) => ask<RepeatCard[]>(`${job(id)}/repeats`),
  repeated: (id: string, piece: string, w: number, revision: number) => `${job(id)}/repeats/${piece}/picture?w=${w}&r=${revision}`,
  darkroom: () => ask<DarkroomCard>('/api/darkroom'),
  print: (id: string, of: Treated, steps: Treatment[], width: number) =>
    ask<PrintCard>(`${job(id)}/items/${of.item}/print?${grouped(of)}`, 'POST', { steps, width }),
  recipeFile: (id: string, of: Treated, name: string) => `${job(id)}/items/${of.item}/recipe?${grouped(of, { name })}`,
  findSubject: (id: string, item: string, of: 'subject' | 'withoutGround') =>
    ask<WorkCard>(`${job(id)}/items/${item}/subject?of=${of}`, 'POST'),
  keepRecipe: (id: string, of: Treated, name: string) => ask<void>(`${job(id)}/items/${of.item}/recipe?${grouped(of, { name })}`, 'PUT'),
  recipeCode: (id: string, of: Treated, name: string) =>
    ask<RecipeCodeCard>(`${job(id)}/items/${of.item}/recipe/code?${grouped(of, { name })}`),
  /** The recipe of a file: one that was saved, or a picture of a code. */
  async readRecipe(file: File): Promise<Recipe> {
    if (!file.type.startsWith('image/')) return ask<Recipe>('/api/recipes/read', 'POST', await file.text())
    return (await (await send('/api/recipes/code', { method: 'POST', body: file })).json()) as Recipe
  },
  traced: (id: string, item: string, wish: TraceWish) =>
    ask<TraceCard>(
      `${job(id)}/items/${item}/traced?${new URLSearchParams({ colours: String(wish.colours), smooth: String(wish.smooth) })}`,
    ),
  foundSubject: (work: string) => ask<FoundSubject>(`/api/work/${work}/subject`),
  recipes: (id: string, of: Treated, w: number) =>
    ask<RecipeCard[]>(`${job(id)}/items/${of.item}/recipes?${grouped(of, { w: String(w) })}`),
  next: (id: string, step: Pace) => ask<NextCard>(`${job(id)}/next?step=${step}`),
  makeNext: (id: string, wish: NextRequest) => ask<{ id: string }>(`${job(id)}/next`, 'POST', wish),
  kept: () => ask<Kept>('/api/kept'),
  keepSet: (name: string, places: string[]) => ask<void>(`/api/kept/sets/${encodeURIComponent(name)}`, 'PUT', places),
  keepFormat: (name: string, format: OwnFormat) => ask<PlaceEntry>(`/api/kept/formats/${encodeURIComponent(name)}`, 'PUT', format),
  keepWord: (word: string) => ask<void>(`/api/kept/words/${encodeURIComponent(word)}`, 'PUT'),
  keepNames: (pattern: string) => ask<void>('/api/kept/names', 'PUT', pattern),
  letGo: (kind: 'sets' | 'formats' | 'words' | 'recipes' | 'sheets', name: string) =>
    ask<void>(`/api/kept/${kind}/${encodeURIComponent(name)}`, 'DELETE'),
  handed: (id: string) => ask<HandedCard[]>(`${job(id)}/handed`),
  clipping: (id: string, items: string[]) => ask<Clipping>(`${job(id)}/clipping`, 'POST', items),
  stage: (id: string, side: string, carets?: string) => ask<StageDelta>(`${job(id)}/sides/${side}${carets ? `?carets=${carets}` : ''}`),
  itemAt: (id: string, side: string, x: number, y: number) =>
    ask<string | null>(`${job(id)}/sides/${side}/at?x=${Math.round(x)}&y=${Math.round(y)}`),
  sheetPicture: (id: string, side: string, width: number, stamp: number | string) =>
    `${job(id)}/sides/${side}/picture?w=${width}&r=${stamp}`,
  places: (typed: string) => ask<PlaceFound>(`/api/places?q=${encodeURIComponent(typed)}`),
  grids: (place: string) => ask<GridCard[]>(`/api/grids?place=${encodeURIComponent(place)}`),
  designs: (places: string[], typed: string) =>
    ask<DesignCard[]>(`/api/designs?${new URLSearchParams({ places: places.join('\n'), q: typed })}`),
  designPicture: (design: string, place: string, words: string, width: number) =>
    `/api/designs/${design}/picture?place=${encodeURIComponent(place)}&words=${encodeURIComponent(words)}&w=${width}`,
  pictures: () => ask<PictureCard[]>('/api/pictures'),
  graphics: (typed: string, set: string | null, from: number) =>
    ask<GraphicsFound>(`/api/graphics?q=${encodeURIComponent(typed)}&from=${from}${set ? `&set=${set}` : ''}`),
  graphic: (id: string) => `/api/graphics/${encodeURIComponent(id)}`,
  media: (id: string, width: number) => `/media/${id}?w=${width}`,
  families: () => ask<Family[]>('/api/families'),
  dropFamily: (family: string) => ask<void>(`/api/families/${encodeURIComponent(family)}`, 'DELETE'),
  pictureColours: (id: string) => ask<string[]>(`/api/pictures/${id}/colours`),
  palettes: () => ask<Palette[]>('/api/palettes'),
  alike: (id: string, item: string, by: Likeness) => ask<string[]>(`${job(id)}/items/${item}/alike?by=${by}`),
  colours: (id: string, side: string, of: string | null) =>
    ask<SideColours>(`${job(id)}/sides/${side}/colours${of ? `?of=${encodeURIComponent(of)}` : ''}`),
  colour: (text: string) => ask<Typed<string>>('/api/colour', 'POST', text).then(read),
  reading: (id: string, item: string) => ask<Reading | null>(`${job(id)}/items/${item}/reading`),
  measure: (request: MeasureRequest) => ask<Typed<number>>('/api/measure', 'POST', request).then(read),
  makeFiles: (id: string, wish: HandOverRequest) => ask<WorkCard>(`${job(id)}/files`, 'POST', wish),
  sheetStart: (id: string, piece: string) => ask<SheetStart>(`${job(id)}/pieces/${piece}/sheets`),
  planSheets: (id: string, wish: PrintWish) => ask<PlanCard>(`${job(id)}/sheets/plan`, 'POST', wish),
  fittedSize: (id: string, wish: PrintWish, across: number, down: number) =>
    ask<FittedSize>(`${job(id)}/sheets/size?across=${across}&down=${down}`, 'POST', wish),
  /** A face of what would be printed. */
  sheetFace: (id: string, wish: PrintWish, face: number, w: number) => blob(`${job(id)}/sheets/picture?face=${face}&w=${w}`, wish),
  printSheets: (id: string, wish: PrintWish) => ask<WorkCard>(`${job(id)}/sheets/file`, 'POST', wish),
  sheetGuide: (id: string, wish: PrintWish) => blob(`${job(id)}/sheets/guide`, wish),
  printed: (work: string) => `/api/work/${work}/printed`,
  keepSheets: (name: string, setup: SheetSetup) => ask<void>(`/api/kept/sheets/${encodeURIComponent(name)}`, 'PUT', setup),
  shop: () => ask<ShopCard>('/api/shop'),
  quote: (id: string, piece: string, wish: OrderWish) => ask<QuoteCard>(`${job(id)}/pieces/${piece}/quote`, 'POST', wish),
  order: (id: string, piece: string, wish: OrderWish) => ask<OrderCard>(`${job(id)}/pieces/${piece}/orders`, 'POST', wish),
  orders: (id: string) => ask<OrderCard[]>(`${job(id)}/orders`),
  ordered: (order: string) => `/api/orders/${order}/file`,
  proof: (id: string, side: string) => ask<ProofCard>(`${job(id)}/sides/${side}/proof`),
  proofPicture: (id: string, side: string, w: number, stamp: number | string) => `${job(id)}/sides/${side}/proof/picture?w=${w}&r=${stamp}`,
  goods: () => ask<Good[]>('/api/goods'),
  worn: (id: string, side: string, of: Worn) => ask<ClothCard>(`${job(id)}/sides/${side}/worn?${worn(of)}`),
  wornPicture: (id: string, side: string, of: Worn, w: number, stamp: number | string) =>
    `${job(id)}/sides/${side}/worn/picture?${worn(of)}&w=${w}&r=${stamp}`,
  list: (id: string, piece: string) => ask<ListCard | null>(`${job(id)}/pieces/${piece}/list`),
  async takeList(id: string, piece: string, body: Blob | string, name: string): Promise<ListCard> {
    const response = await send(`${job(id)}/pieces/${piece}/list?${new URLSearchParams({ name })}`, { method: 'POST', body })
    return (await response.json()) as ListCard
  },
  matchList: (id: string, piece: string, fillings: Filling[]) => ask<ListCard>(`${job(id)}/pieces/${piece}/list`, 'PUT', { fillings }),
  dropList: (id: string, piece: string) => ask<void>(`${job(id)}/pieces/${piece}/list`, 'DELETE'),
  rowPicture: (id: string, piece: string, row: number, side: number, w: number, stamp: number | string) =>
    `${job(id)}/pieces/${piece}/list/picture?row=${row}&side=${side}&w=${w}&r=${stamp}`,
  listFiles: (id: string, piece: string, wish: ListedFiles) => ask<WorkCard>(`${job(id)}/pieces/${piece}/list/files`, 'POST', wish),
  work: (id: string) => ask<WorkCard>(`/api/work/${id}`),
  giveUp: (id: string) => ask<void>(`/api/work/${id}`, 'DELETE'),
  madeFiles: (id: string) => ask<FileCard[]>(`/api/work/${id}/files`),
  madeFile: (id: string) => `/api/work/${id}/file`,
  async madeOne(id: string, at: number): Promise<Blob> {
    return (await send(`/api/work/${id}/files/${at}`)).blob()
  },
  async readDrawing(file: Blob, name: string): Promise<DrawingCard> {
    const response = await send(`/api/drawings?name=${encodeURIComponent(name)}`, { method: 'POST', body: file })
    return (await response.json()) as DrawingCard
  },
  async takeFont(file: Blob): Promise<Family> {
    const response = await send('/api/families', { method: 'POST', body: file })
    return (await response.json()) as Family
  },
  async takePicture(file: Blob, name: string): Promise<PictureCard> {
    const response = await send(`/api/pictures?name=${encodeURIComponent(name)}`, { method: 'POST', body: file })
    return (await response.json()) as PictureCard
  },
}
