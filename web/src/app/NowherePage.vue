<template>
  <section>
    <h1>There is nothing at this address</h1>
    <p class="reading">
      The river does not run here.
      <RouterLink to="/heads">Back to the heads.</RouterLink>
    </p>
  </section>
</template>
