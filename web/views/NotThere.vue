<template>
  <main class="nowhere">
    <h1>There is no page here.</h1>
    <p class="soft">The address may be cut off. All shots are in the <RouterLink to="/">list of shots</RouterLink>.</p>
  </main>
</template>

<style scoped>
.nowhere {
  padding: 40px;
}
</style>
