<script setup lang="ts">
import { ElCheckbox, ElDialog } from 'element-plus'
import { useKeysOn } from '@/keys/useKeys'

/** All keys. */
const open = defineModel<boolean>({ required: true })
const on = useKeysOn()
const KEYS = [
  ['/', 'find an instance'],
  [', .', 'previous, next instance'],
  ['1 – 9', 'Now, Sessions, Statements, Locks, Memory, Pools, Counters, Baseline, Compare'],
  ['Space', 'on a shelf row: add to the picked, or take out'],
  ['+', 'add a chart'],
  ['Enter', 'on a chart: the whole bench; Esc: back'],
  ['← →', 'on a chart: point by point'],
  ['t', 'on the whole bench: the numbers as a table'],
  ['Delete', 'on a chart: remove it'],
  ['w', 'on a value or a chart: how it is made, and how to make it again by hand'],
  ['n', 'normal band on or off'],
  ['m', 'set a marker here'],
  ['a', 'the next alert'],
  ['[ ]', 'window back, forward; Shift with ← → too'],
  ['{ }', 'narrower, wider; Shift with ↓ ↑ too'],
  ['0', 'live'],
  ['c', 'a span of the calendar: today, last week, twelve months …'],
  ['?', 'this list'],
]
</script>

<template>
  <ElDialog v-model="open" append-to="#answers" title="Keys" width="460px">
    <dl>
      <template v-for="[key, what] in KEYS" :key="key">
        <dt>
          <span class="key">{{ key }}</span>
        </dt>
        <dd>{{ what }}</dd>
      </template>
    </dl>
    <p>
      <ElCheckbox v-model="on">keys act</ElCheckbox>
    </p>
    <p class="soft">They are off while you type in a field. Everything works with the mouse too.</p>
  </ElDialog>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: max-content 1fr;
  gap: 8px 16px;
  padding-bottom: 16px;
}
</style>
