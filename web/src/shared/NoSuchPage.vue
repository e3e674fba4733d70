<template>
  <div class="empty">
    <h1>There is no such page</h1>
    <p>The address may be from an older version. <RouterLink to="/reviews">Go to the reviews</RouterLink>.</p>
  </div>
</template>

<style scoped>
.empty {
  padding: 80px 48px;
}
</style>
