<script setup lang="ts">
/** Lines of something as it was before and after; those that differ are marked. */
defineProps<{
  before: string
  after: string
  rows: { name: string; before: string; after: string; differs?: boolean }[]
}>()
</script>

<template>
  <table class="pair narrow">
    <thead>
      <tr>
        <th />
        <th>{{ before }}</th>
        <th>{{ after }}</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="r in rows" :key="r.name" :class="{ differs: r.differs }">
        <th scope="row">{{ r.name }}</th>
        <td>{{ r.before }}</td>
        <td>{{ r.after }}</td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
.pair {
  width: 100%;
  border-collapse: collapse;
  margin-bottom: 8px;
}
.pair th,
.pair td {
  padding: 2px 8px 2px 0;
  text-align: left;
  vertical-align: top;
  font-weight: 500;
  border-bottom: 1px solid #d5dade;
}
.differs {
  color: #775600;
}
</style>
