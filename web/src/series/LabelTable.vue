<script setup lang="ts">
import type { Labelled } from './labels'
import { nameOf } from './labels'
import LevelBar from './LevelBar.vue'
import ValueCell from './ValueCell.vue'

/**
 * A table with one row for each thing that labels name, such as a pool: its name, with the instance where there are
 * several, and a value for each column. A level with a maximum is drawn as a bar; a column without a key has a slot.
 */
export type Column = { title: string; key?: string; max?: string; share?: string }
defineProps<{
  /** What the rows are, and the heading of their names. */
  caption?: string
  what: string
  rows: Labelled[]
  columns: Column[]
  several: boolean
  /** The row that is picked; without one, rows can't be picked. */
  picked?: string
}>()
const emit = defineEmits<{ pick: [id: string] }>()
</script>

<template>
  <table v-if="rows.length" class="rows">
    <caption v-if="caption">
      {{
        caption
      }}
    </caption>
    <thead>
      <tr>
        <th>{{ what }}</th>
        <th v-for="column in columns" :key="column.title">{{ column.title }}</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="row in rows" :key="row.id" :class="{ on: picked === row.id }">
        <th scope="row">
          <button
            v-if="picked !== undefined"
            class="link"
            type="button"
            :aria-pressed="picked === row.id"
            @click="emit('pick', row.id)"
          >
            {{ nameOf(row) }}</button><template v-else>{{ nameOf(row) }}</template
          ><span v-if="several" class="soft"> · {{ row.instance.name }}</span
          ><slot name="after" :row="row" />
        </th>
        <td v-for="column in columns" :key="column.title">
          <slot v-if="!column.key" :row="row" />
          <LevelBar
            v-else-if="column.max"
            :level="row.by[column.key]"
            :max="row.by[column.max]"
            :share="column.share ? row.by[column.share] : undefined"
          />
          <ValueCell v-else :series="row.by[column.key]" />
        </td>
      </tr>
    </tbody>
  </table>
</template>
