<script setup lang="ts">
import { ElButton } from 'element-plus'
import { onMounted, ref } from 'vue'
import { csrfToken } from '../api/client'
import { usePeople } from '../stores/people'

/** The head of every page outside a project. */
const people = usePeople()
const token = ref(csrfToken())
onMounted(() => void people.whoAmI())
</script>

<template>
  <header>
    <router-link to="/" class="mark">LORICA</router-link>
    <nav aria-label="Pages">
      <router-link to="/">Projects</router-link>
      <router-link to="/office">Office</router-link>
      <router-link to="/account">Account</router-link>
    </nav>
    <span v-if="people.me" class="who">{{ people.me.name }} · {{ people.me.role }}</span>
    <form method="post" action="/sign-out/">
      <input type="hidden" name="csrfmiddlewaretoken" :value="token" />
      <ElButton link type="primary" size="small" native-type="submit">Sign out</ElButton>
    </form>
  </header>
</template>

<style scoped>
header {
  height: 44px;
  display: flex;
  align-items: center;
  gap: 14px;
  padding: 0 14px;
  background: var(--sheet);
  border-bottom: 1px solid var(--line);
}
.mark {
  font: 600 15px var(--condensed);
  letter-spacing: 0.14em;
  color: var(--ink);
  text-decoration: none;
}
nav {
  display: flex;
  gap: 14px;
  margin: 0 auto 0 10px;
}
nav a {
  color: var(--ink-2);
  text-decoration: none;
  font: 500 13px var(--condensed);
  padding: 11px 0 9px;
  border-bottom: 2px solid transparent;
}
nav a.router-link-exact-active {
  color: var(--ink);
  border-color: var(--ink);
}
.who {
  color: var(--ink-2);
}
</style>
