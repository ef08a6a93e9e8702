// Copies the scripts and faces that ship with the application out of their packages.
import { cpSync, mkdirSync, readFileSync, readdirSync, writeFileSync } from "node:fs";
import { inflateSync } from "node:zlib";
import { woff2ttf } from "fonteditor-core";

const lib = "src/MintHarbor.Web/wwwroot/lib";
mkdirSync(`${lib}/fonts`, { recursive: true });
cpSync("node_modules/htmx.org/dist/htmx.min.js", `${lib}/htmx.min.js`);
cpSync("node_modules/@alpinejs/csp/dist/cdn.min.js", `${lib}/alpine.min.js`);
for (const face of ["alegreya", "atkinson-hyperlegible-next", "atkinson-hyperlegible-mono"]) {
    const files = `node_modules/@fontsource/${face}/files`;
    for (const file of readdirSync(files)) {
        if (/-latin-(400|500|600)-(normal|italic)\.woff2$|-latin-ext-400-normal\.woff2$/.test(file))
            cpSync(`${files}/${file}`, `${lib}/fonts/${file}`);
    }
}

// Printed pages embed faces as TrueType; the packages bring them packed as WOFF.
function unpacked(woff) {
    const bytes = woff.buffer.slice(woff.byteOffset, woff.byteOffset + woff.byteLength);
    return Buffer.from(woff2ttf(bytes, { inflate: (packed) => [...inflateSync(Buffer.from(packed))] }));
}
mkdirSync(`${lib}/print`, { recursive: true });
for (const [face, style] of [
    ["alegreya", "500-normal"],
    ["alegreya", "400-italic"],
    ["atkinson-hyperlegible-next", "400-normal"],
    ["atkinson-hyperlegible-next", "600-normal"],
    ["atkinson-hyperlegible-mono", "400-normal"],
]) {
    writeFileSync(
        `${lib}/print/${face}-${style}.ttf`,
        unpacked(readFileSync(`node_modules/@fontsource/${face}/files/${face}-latin-${style}.woff`)),
    );
}
