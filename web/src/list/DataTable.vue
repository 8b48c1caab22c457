<script setup lang="ts" generic="T">
import { watchDebounced } from '@vueuse/core'
import { computed, nextTick, ref, watch } from 'vue'
import { lines, sorted, wayOf, type Column } from './columns'
import { useRowsInView } from './useRowsInView'
import { useStill } from './useStill'

/**
 * Every list of things with columns: sorted by the heads, its first column pinned, of thousands of
 * rows only those in view in the page, and still while the pointer or the focus is in it.
 */
const props = defineProps<{
  caption?: string
  /** What it is read out as where there is no caption. */
  label?: string
  columns: Column<T>[]
  rows: T[]
  rowKey: (row: T) => string
  /** What the rows are about; of another thing none is kept standing. */
  about?: unknown
  /** The row that shows more of itself. */
  open?: string
  on?: (row: T) => boolean
  /** The series that all of a row is about. */
  series?: (row: T) => number | undefined
  /** Rows of which this is the same, and something, fold into one. */
  alike?: (row: T) => string
}>()
const sort = defineModel<string>('sort', { default: '' })

const host = ref<HTMLElement>()
const unfolded = ref(new Set<string>())
const ordered = computed(() => sorted(props.rows, props.columns, sort.value))
const { shown, newer, isGone, takeAll } = useStill(
  host,
  () => ordered.value,
  (row) => props.rowKey(row),
  () => [props.about, sort.value],
)
const list = computed(() => lines(shown.value, props.rowKey, props.alike, unfolded.value))
const { long, inView, above, below, measure } = useRowsInView(
  host,
  () => list.value.map((line) => line.key),
  32,
)
const drawn = computed(() =>
  [...inView.value].flatMap((index) => {
    const line = list.value[index]
    return line ? [{ index, ...line }] : []
  }),
)
const unfold = (alike: string) => (unfolded.value = new Set(unfolded.value).add(alike))
const turn = (column: Column<T>) =>
  (sort.value = sort.value === column.key ? `-${column.key}` : column.key)

const RESTS_MS = 250
/** Of a long list the columns keep the widths of what is seen first, or they would dance. */
const widths = ref<number[]>([])
async function takeWidths() {
  widths.value = []
  if (!long.value) return
  await nextTick()
  await nextTick()
  const heads = [...(host.value?.querySelectorAll('thead th') ?? [])]
  widths.value = heads.map((head) => head.getBoundingClientRect().width)
}
watch([long, () => props.columns.map((c) => c.title).join('\n')], takeWidths, {
  immediate: true,
  flush: 'post',
})
// while somebody types what it is about they stay as they are
watchDebounced(() => props.about, takeWidths, { debounce: RESTS_MS })
</script>

<template>
  <div ref="host" class="held">
    <p v-if="newer" class="newer">
      <button type="button" class="link" @click="takeAll">{{ newer }} newer: show</button>
    </p>
    <div class="sideways">
      <table
        class="rows"
        :class="{ fixed: widths.length }"
        :aria-rowcount="long ? list.length + 1 : undefined"
        :aria-label="caption ? undefined : label"
      >
        <caption v-if="caption">
          {{
            caption
          }}
        </caption>
        <colgroup v-if="widths.length">
          <col v-for="(width, i) in widths" :key="i" :style="{ width: `${width}px` }" />
        </colgroup>
        <thead v-if="columns.some((c) => c.title)">
          <tr>
            <th
              v-for="column in columns"
              :key="column.key"
              :class="{ n: column.n }"
              :aria-sort="column.by ? (wayOf(column, sort) ?? 'none') : undefined"
            >
              <slot :name="`head-${column.key}`" />
              <button v-if="column.by" type="button" class="link" @click="turn(column)">
                {{ column.title }}
              </button>
              <span v-else :class="{ unseen: column.unseen }">{{ column.title }}</span>
            </th>
          </tr>
        </thead>
        <tbody v-if="above" aria-hidden="true">
          <tr :style="{ height: `${above}px` }"></tr>
        </tbody>
        <tbody
          v-for="{ index, row, key, folded, alike: look } in drawn"
          :key="key"
          :ref="measure"
          :data-index="index"
          :class="{ gone: isGone(key) }"
        >
          <tr
            :class="{ on: open === key || on?.(row) }"
            :data-series="series?.(row)"
            :aria-rowindex="long ? index + 2 : undefined"
          >
            <component
              :is="i ? 'td' : 'th'"
              v-for="(column, i) in columns"
              :key="column.key"
              :scope="i ? undefined : 'row'"
              :class="{ n: column.n }"
            >
              <slot :name="column.key" :row="row" />
              <button v-if="!i && folded" type="button" class="link alike" @click="unfold(look)">
                +{{ folded }} like this
              </button>
              <span v-if="!i && isGone(key)" class="silent"> gone</span>
            </component>
          </tr>
          <tr v-if="open === key">
            <td :colspan="columns.length" class="more"><slot name="more" :row="row" /></td>
          </tr>
        </tbody>
        <tbody v-if="below" aria-hidden="true">
          <tr :style="{ height: `${below}px` }"></tr>
        </tbody>
        <slot name="foot" />
      </table>
    </div>
  </div>
</template>

<style scoped>
.held {
  position: relative;
}
.sideways {
  overflow-x: auto;
}
.fixed {
  table-layout: fixed;
}
.fixed :is(th, td) {
  overflow-wrap: anywhere;
}
.newer {
  position: sticky;
  z-index: 2;
  top: 0;
  height: 0;
  text-align: right;
}
.newer .link {
  padding: 3px 10px;
  background: var(--oat);
}
.rows :is(thead, tbody) th:first-child {
  position: sticky;
  left: 0;
  background: inherit;
}
.alike {
  margin-left: 8px;
  white-space: nowrap;
  color: var(--ink-soft);
}
.gone {
  opacity: 0.6;
}
.more {
  padding: 8px 12px 16px;
  white-space: normal;
}
.more :deep(p) {
  padding: 3px 0;
}
</style>
