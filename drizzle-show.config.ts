import { defineConfig } from 'drizzle-kit';

export default defineConfig({
  dialect: 'sqlite',
  schema: './src/store/show-schema.ts',
  out: './src/store/migrations/show',
});
