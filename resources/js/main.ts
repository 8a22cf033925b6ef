import './ui/base.css'
import '@vue-flow/core/dist/style.css'
import { createPinia } from 'pinia'
import { createApp } from 'vue'
import { createRouter, createWebHistory } from 'vue-router'
import { signedOut } from './api/client'
import App from './App.vue'
import HomePlace from './places/home/HomePlace.vue'
import { controls } from './ui/controls'

const router = createRouter({
    history: createWebHistory(),
    routes: [
        { path: '/', component: HomePlace },
        { path: '/studies/:study/:place?/:stage?', component: () => import('./shell/StudyRoute.vue'), props: true },
        { path: '/sign-in', component: () => import('./people/SignInPage.vue') },
        { path: '/forgotten', component: () => import('./people/ForgottenPage.vue') },
        { path: '/new-password', component: () => import('./people/NewPasswordPage.vue') },
        { path: '/join', component: () => import('./people/JoinPage.vue') },
        { path: '/address', component: () => import('./people/AddressPage.vue') },
        { path: '/account', component: () => import('./people/AccountPage.vue') },
        { path: '/letters', component: () => import('./people/LettersPage.vue') },
        { path: '/see/:address?', component: () => import('./reader/ReaderPage.vue'), props: true },
        { path: '/embed/:frame', component: () => import('./reader/ReaderPage.vue'), props: true },
        { path: '/room/:code', component: () => import('./reader/PhonePage.vue'), props: true },
        { path: '/copy', component: () => import('./reader/CopyPage.vue') },
        { path: '/back', component: () => import('./reader/BackPage.vue') },
        { path: '/:rest(.*)*', redirect: '/' },
    ],
})

/** Pages that are for who is not signed in. */
const OPEN = ['see', 'embed', 'room', 'copy', 'sign-in', 'forgotten', 'new-password', 'join', 'address']
signedOut.tell = () => {
    const { path, fullPath, hash } = router.currentRoute.value
    if (!OPEN.includes(path.split('/')[1] ?? '')) {
        // A key stays behind its mark: in a query it would be sent to the server.
        void router.replace({ path: '/sign-in', query: fullPath === '/' ? {} : { to: fullPath.replace(hash, '') }, hash })
    }
}

createApp(App).use(createPinia()).use(router).use(controls).mount('#app')
