import { defineConfig } from 'drizzle-kit';

export default defineConfig({
  dialect: 'sqlite',
  schema: './src/store/as-run-schema.ts',
  out: './src/store/migrations/as-run',
});
