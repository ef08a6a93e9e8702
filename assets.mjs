// Copies the scripts and faces that ship with the application out of their packages.
import { cpSync, mkdirSync, readdirSync } from "node:fs";

const lib = "src/MintHarbor.Web/wwwroot/lib";
mkdirSync(`${lib}/fonts`, { recursive: true });
cpSync("node_modules/htmx.org/dist/htmx.min.js", `${lib}/htmx.min.js`);
cpSync("node_modules/@alpinejs/csp/dist/cdn.min.js", `${lib}/alpine.min.js`);
for (const face of ["alegreya", "atkinson-hyperlegible-next", "atkinson-hyperlegible-mono"]) {
  const files = `node_modules/@fontsource/${face}/files`;
  for (const file of readdirSync(files)) {
    if (/-latin-(400|500|600)-(normal|italic)\.woff2$|-latin-ext-400-normal\.woff2$/.test(file)) cpSync(`${files}/${file}`, `${lib}/fonts/${file}`);
  }
}
