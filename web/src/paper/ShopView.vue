<script setup lang="ts">
import { FileDown, Send } from '@lucide/vue'
import { useIntervalFn } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { api } from '../api/client'
import BackLink from '../hand-over/BackLink.vue'
import HandFrame from '../hand-over/HandFrame.vue'
import type { OrderCard, OrderState, QuoteCard, ShopCard } from '../generated/types'
import { showFormat } from '../measures'
import ChoiceField from '../parts/ChoiceField.vue'
import NumberField from '../parts/NumberField.vue'
import { useBench } from '../stores/bench'
import { useNotices } from '../stores/notices'
import { useOpenJob } from '../stores/use-open-job'

/** Ordering at a print shop: what it costs, what the shop says of the file, and where each order is. */
const props = defineProps<{ job: string }>()
const bench = useBench()
const notices = useNotices()

const shop = ref<ShopCard | null>(null)
const piece = ref<string | null>(null)
const paper = ref('')
const count = ref(0)
const quote = ref<QuoteCard | null>(null)
const refused = ref('')
const orders = ref<OrderCard[]>([])
const ordering = ref(false)

useOpenJob(
  () => props.job,
  async () => {
    const own = bench.piece?.format.unit !== 'px' ? bench.piece : bench.job?.pieces.find((other) => other.format.unit !== 'px')
    piece.value ??= own?.id ?? null
    if (shop.value) return
    shop.value = await api.shop().catch((error) => {
      notices.report(error)
      return null
    })
    paper.value = shop.value?.papers[0]?.id ?? ''
    count.value = shop.value?.count ?? 0
  },
)
const pieces = computed(() => (bench.job?.pieces ?? []).filter((other) => other.format.unit !== 'px'))
const own = computed(() => pieces.value.find((other) => other.id === piece.value) ?? null)

watch(
  () => [piece.value, paper.value, count.value, bench.revision],
  async () => {
    if (!piece.value || !paper.value || !count.value) return
    refused.value = ''
    quote.value = await api.quote(props.job, piece.value, { paper: paper.value, count: count.value }).catch((error: Error) => {
      refused.value = error.message
      return null
    })
  },
)

const look = async () => {
  orders.value = await api.orders(props.job).catch(() => orders.value)
}
watch(
  () => bench.job?.id,
  () => void look(),
  { immediate: true },
)
/** Orders move on by themselves. */
const moving = computed(() => orders.value.some((order) => !['ready', 'rejected'].includes(order.state)))
useIntervalFn(() => {
  if (moving.value) void look()
}, 3000)

async function order() {
  if (!piece.value || ordering.value) return
  ordering.value = true
  try {
    const placed = await api.order(props.job, piece.value, { paper: paper.value, count: count.value })
    await look()
    notices.say(placed.state === 'rejected' ? 'The shop sent it back. The reasons are beside it.' : 'The shop takes it.', {
      trouble: placed.state === 'rejected',
    })
  } catch (error) {
    notices.report(error)
  } finally {
    ordering.value = false
  }
}
const names: Record<OrderState, string> = {
  rejected: 'Sent back',
  accepted: 'Accepted',
  printing: 'Being printed',
  cutting: 'Being cut',
  ready: 'Ready to fetch',
}
const route: OrderState[] = ['accepted', 'printing', 'cutting', 'ready']
const money = (hundredths: number) => (hundredths / 100).toFixed(2)
const moment = (at: number) =>
  new Date(at).toLocaleString([], { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit', hour12: false })
</script>

<template>
  <HandFrame way="shop" :job="job" columns="360px minmax(0, 1fr)">
    <template v-if="bench.job && shop">
      <section class="wish" aria-labelledby="shop">
        <h1 id="shop">{{ shop.name }}</h1>
        <p class="quiet">
          A stand-in that ships with the program: it looks at the file as a shop does and moves orders on by itself. Nothing leaves this
          machine.
        </p>
        <p v-if="!own">No piece of this job is on paper. Add one under Sizes.</p>
        <template v-else>
          <ChoiceField
            label="Piece"
            :value="own.id"
            :choices="pieces.map((other) => ({ value: other.id, name: other.name }))"
            @done="piece = $event" />
          <p class="quiet">{{ showFormat(own.format) }}, {{ own.sides.length === 1 ? '1 side' : `${own.sides.length} sides` }}</p>
          <ChoiceField
            label="Paper"
            :value="paper"
            :choices="shop.papers.map((entry) => ({ value: entry.id, name: entry.name }))"
            data-field="paper"
            @done="paper = $event" />
          <label class="count"
            ><span>How many</span><NumberField label="How many" :value="count" :least="1" :most="100000" whole @done="count = $event"
          /></label>
          <p v-if="refused" class="wrong" role="alert">{{ refused }}</p>
          <p v-else-if="quote" class="price">
            <b data-price>{{ money(quote.price) }}</b> for {{ quote.says }}
          </p>
          <button class="act next go" :disabled="!quote || ordering" @click="order"><Send :size="16" />Order</button>
        </template>
        <BackLink class="back" :job="job" />
      </section>
      <section class="orders scroll" aria-labelledby="orders">
        <h2 id="orders">{{ orders.length ? 'Orders' : 'Nothing was ordered yet' }}</h2>
        <ul>
          <li v-for="entry in orders" :key="entry.id" :data-order="entry.state">
            <div class="head">
              <b>{{ entry.count }} {{ entry.piece }}</b
              ><span class="quiet">{{ moment(entry.at) }}</span>
            </div>
            <p>
              {{ entry.paper }}, {{ money(entry.price) }}. Revision {{ entry.revision }} is what is printed.
              <a class="link" :href="api.ordered(entry.id)" download><FileDown :size="13" />The file</a>
            </p>
            <ul v-if="entry.reasons.length" class="reasons">
              <li v-for="why in entry.reasons" :key="why">{{ why }}</li>
            </ul>
            <ol v-else class="route">
              <li
                v-for="step in route"
                :key="step"
                :class="{ done: route.indexOf(step) <= route.indexOf(entry.state) }"
                :aria-current="step === entry.state ? 'step' : undefined">
                {{ names[step] }}
              </li>
            </ol>
            <span v-if="entry.state === 'rejected'" class="sent">{{ names.rejected }}</span>
          </li>
        </ul>
      </section>
    </template>
  </HandFrame>
</template>

<style scoped>
section {
  padding: 20px 22px;
  min-height: 0;
}

.wish {
  display: flex;
  flex-direction: column;
  gap: 10px;
  background: var(--paper);
  border-right: 1px solid var(--rule);
}

.count {
  display: grid;
  grid-template-columns: 62px 100px;
  align-items: center;
  gap: 12px;
  font-size: var(--text-1);
  color: var(--ink-3);
}

.price b {
  font-size: var(--text-4);
}

.go {
  height: 38px;
}

.back {
  margin-top: auto;
}

.orders > ul {
  display: grid;
  gap: 12px;
  max-width: 720px;
  margin-top: 12px;
}

.orders > ul > li {
  position: relative;
  display: grid;
  gap: 6px;
  padding: 14px 16px;
  background: var(--paper);
  border: 1px solid var(--rule);
  border-radius: 4px;
}

.head {
  display: flex;
  gap: 14px;
  align-items: baseline;
}

.reasons {
  display: grid;
  gap: 4px;
  padding: 8px 12px;
  border-left: 3px solid var(--madder);
  background: var(--paper-2);
}

.sent {
  position: absolute;
  top: 14px;
  right: 16px;
  color: var(--madder-deep);
  font-weight: 600;
}

.route {
  display: grid;
  grid-template-columns: repeat(4, 1fr);
  gap: 4px;
  font-size: var(--text-1);
}

.route li {
  padding-top: 4px;
  border-top: 3px solid var(--rule);
  color: var(--ink-3);
}

.route .done {
  border-color: var(--ink);
  color: var(--ink);
}

.route [aria-current] {
  font-weight: 650;
}
</style>
