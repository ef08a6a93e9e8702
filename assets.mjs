// Copies the scripts and faces that ship with the application out of their packages.
import { cpSync, mkdirSync, readFileSync, readdirSync, writeFileSync } from "node:fs";
import { inflateSync } from "node:zlib";

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

// Printed pages embed faces as TrueType; the packages bring them packed as WOFF 1.0 (W3C recommendation: a header of 44 bytes, a
// directory of 20 bytes a table, each table packed by zlib where that is shorter).
function unpacked(woff) {
    const tables = woff.readUInt16BE(12);
    const entries = Array.from({ length: tables }, (_, n) => {
        const at = 44 + n * 20;
        const [offset, packed, length] = [4, 8, 12].map((o) => woff.readUInt32BE(at + o));
        const bytes = woff.subarray(offset, offset + packed);
        return { tag: woff.subarray(at, at + 4), sum: woff.readUInt32BE(at + 16), data: packed < length ? inflateSync(bytes) : bytes };
    });
    const power = 2 ** Math.floor(Math.log2(tables));
    const head = Buffer.alloc(12 + tables * 16);
    head.writeUInt32BE(woff.readUInt32BE(4), 0);
    [tables, power * 16, Math.log2(power), tables * 16 - power * 16].forEach((v, n) => head.writeUInt16BE(v, 4 + n * 2));
    const parts = [head];
    let offset = head.length;
    entries.forEach(({ tag, sum, data }, n) => {
        tag.copy(head, 12 + n * 16);
        [sum, offset, data.length].forEach((v, k) => head.writeUInt32BE(v, 16 + n * 16 + k * 4));
        const padded = Buffer.concat([data, Buffer.alloc((4 - (data.length % 4)) % 4)]);
        parts.push(padded);
        offset += padded.length;
    });
    return Buffer.concat(parts);
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
