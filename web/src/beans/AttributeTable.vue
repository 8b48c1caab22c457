<script setup lang="ts">
import { vMay } from '@/access/vMay'
import type { BeanAttribute, BeanNumber } from '@/api/types'
import { number } from '@/text/format'

/** What a managed bean says now; each number can become a counter. */
defineProps<{ attributes: BeanAttribute[] }>()
const emit = defineEmits<{
  make: [number: BeanNumber, of: { type: string; description: string }]
}>()

const plainType = (type: string) =>
  type
    .replace(/^\[L?(.*?);?$/, '$1')
    .replace(/^.*\.(\w+)$/, '$1')
    .replace(/^CompositeData.*/, 'composite')
    .replace(/^TabularData.*/, 'table')
const told = (n: BeanNumber) =>
  n.value === null ? '◌ no number now' : n.flag ? (n.value ? 'true' : 'false') : number(n.value, '')
/** What is a number itself needs no line of text before it. */
const itself = (a: BeanAttribute) => a.numbers.length === 1 && a.numbers[0]?.path === a.name
</script>

<template>
  <table class="rows">
    <thead>
      <tr>
        <th>Attribute</th>
        <th>Now</th>
        <th>Type</th>
        <th>Counter</th>
      </tr>
    </thead>
    <tbody v-for="a in attributes" :key="a.name">
      <tr v-if="!itself(a)">
        <th scope="row" :title="a.description">{{ a.name }}</th>
        <td class="text">
          <span v-if="a.why" class="silent">◌ {{ a.why }}</span>
          <template v-else-if="!a.numbers.length">{{ a.value }}</template>
        </td>
        <td class="soft" :title="a.type">{{ plainType(a.type) }}</td>
        <td></td>
      </tr>
      <tr v-for="n in a.numbers" :key="n.path">
        <th scope="row" :class="{ inside: !itself(a) }" :title="a.description">
          {{ itself(a) ? a.name : n.path.slice(a.name.length + 1) }}
        </th>
        <td class="n" :title="`${n.value}`">{{ told(n) }}</td>
        <td class="soft">{{ itself(a) ? plainType(a.type) : '' }}</td>
        <td>
          <span v-if="n.counter" class="soft">read as {{ n.counter }}</span>
          <button
            v-else
            v-may="'shape'"
            class="link"
            type="button"
            :aria-label="`Make a counter of ${n.path}`"
            @click="emit('make', n, a)"
          >
            make it a counter
          </button>
        </td>
      </tr>
    </tbody>
  </table>
  <p v-if="!attributes.length" class="soft">Nothing of it can be read.</p>
</template>

<style scoped>
.n {
  font-variant-numeric: tabular-nums;
  white-space: nowrap;
}
.text {
  overflow-wrap: anywhere;
}
.inside {
  padding-left: 20px;
  font-weight: 400;
}
td:last-child {
  white-space: nowrap;
}
</style>
