import './ui/base.css'
import '@vue-flow/core/dist/style.css'
import { createPinia } from 'pinia'
import { createApp } from 'vue'
import { createRouter, createWebHistory } from 'vue-router'
import App from './App.vue'
import HomePlace from './places/home/HomePlace.vue'
import { controls } from './ui/controls'

const router = createRouter({
    history: createWebHistory(),
    routes: [
        { path: '/', component: HomePlace },
        { path: '/studies/:study/:place?/:stage?', component: () => import('./shell/StudyRoute.vue'), props: true },
        { path: '/:rest(.*)*', redirect: '/' },
    ],
})

createApp(App).use(createPinia()).use(router).use(controls).mount('#app')
