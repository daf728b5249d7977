// Loads a page for ever, so many at a time.
//   node page-load.mjs <url> <how many>
const [url, count] = process.argv.slice(2);
let loads = 0;
process.on('message', () => process.send?.({ loads }));
process.on('disconnect', () => process.exit(0));
await Promise.all(
  Array.from({ length: Number(count) }, async () => {
    for (;;) {
      await (await fetch(url)).text();
      loads += 1;
    }
  }),
);
