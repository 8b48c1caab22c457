<script setup lang="ts" generic="T">
import { toCsv, type CsvColumn } from './csv'

/** Rows to be taken along as a file. */
const props = defineProps<{ name: string; columns: CsvColumn<T>[]; rows: T[] }>()
function take() {
  const file = new Blob([toCsv(props.columns, props.rows)], { type: 'text/csv' })
  const link = document.createElement('a')
  link.href = URL.createObjectURL(file)
  link.download = `${props.name}.csv`
  link.click()
  URL.revokeObjectURL(link.href)
}
</script>

<template>
  <button type="button" class="link" :disabled="!rows.length" @click="take">download as CSV</button>
</template>
