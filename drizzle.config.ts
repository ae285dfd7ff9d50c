import { defineConfig } from 'drizzle-kit'

/** After a change of schema.ts: npx drizzle-kit generate, and commit the migration it writes. */
export default defineConfig({
  dialect: 'postgresql',
  schema: './src/server/database/schema.ts',
  out: './src/server/database/migrations',
})
