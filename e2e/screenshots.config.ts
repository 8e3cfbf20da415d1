import { defineConfig } from '@playwright/test'
import usual from './playwright.config.ts'

// The pictures of the documents: one of each view, made with quick hands.
export default defineConfig({ ...usual, projects: [{ name: 'pictures', testDir: './screenshots' }] })
