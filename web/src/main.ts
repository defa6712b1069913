import '@fontsource/ibm-plex-sans/400.css'
import '@fontsource/ibm-plex-sans/600.css'
import '@fontsource/ibm-plex-sans-condensed/400.css'
import '@fontsource/ibm-plex-sans-condensed/500.css'
import '@fontsource/ibm-plex-sans-condensed/600.css'
import '@fontsource/ibm-plex-mono/400.css'
import '@fontsource/ibm-plex-mono/600.css'
import './element'
import './theme.css'
import { createPinia } from 'pinia'
import { VueQueryPlugin } from '@tanstack/vue-query'
import { createApp } from 'vue'
import { createRouter, createWebHistory } from 'vue-router'
import { plugin } from './api/queries'
import App from './App.vue'

const router = createRouter({
  history: createWebHistory('/'),
  routes: [
    { path: '/', component: () => import('./views/ProjectsView.vue') },
    { path: '/office', component: () => import('./views/OfficeView.vue') },
    { path: '/account', component: () => import('./views/AccountView.vue') },
    { path: '/projects/:id/history', component: () => import('./views/HistoryView.vue'), props: true },
    { path: '/projects/:id', component: () => import('./views/WorkbenchView.vue'), props: true },
    { path: '/:elsewhere(.*)*', redirect: '/' },
  ],
})

createApp(App).use(createPinia()).use(VueQueryPlugin, plugin).use(router).mount('#app')
