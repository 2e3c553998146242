<script setup lang="ts">
import { ROLE_WORDS } from '#core/fields/field'
import { useCatalogue } from '~/shared/stores/catalogue'
import AllKeys from './AllKeys.vue'
import CalendarFeed from './CalendarFeed.vue'
import NotificationSettings from './NotificationSettings.vue'
import OwnKeys from './OwnKeys.vue'
import PasswordForm from './PasswordForm.vue'
import SessionList from './SessionList.vue'

useHead({ title: 'Account and API keys' })
const store = useCatalogue()
</script>

<template>
  <div class="mx-auto h-full max-w-[980px] overflow-auto px-8 pt-4 pb-12" tabindex="0">
    <h1>{{ store.me?.name }}</h1>
    <p class="quiet">
      {{ store.me?.email }} · {{ store.me ? ROLE_WORDS[store.me.role] : ''
      }}{{ store.me?.team ? ` · Team ${store.me.team}` : '' }}
    </p>
    <NotificationSettings class="mt-6" />
    <PasswordForm class="mt-8" />
    <SessionList class="mt-8" />
    <CalendarFeed class="mt-8" />
    <OwnKeys class="mt-8" />
    <AllKeys v-if="store.may('build')" class="mt-8" />
  </div>
</template>
