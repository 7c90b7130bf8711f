// Makes TrueType files of the fonts that papers are printed in: WOFF is a TrueType file whose
// tables are packed (https://www.w3.org/TR/WOFF/).
import { mkdirSync, readFileSync, writeFileSync } from "node:fs";
import { inflateSync } from "node:zlib";

const to = "internal/files/fonts";
const wanted = [
  ["hanken-grotesk", 400, "text"],
  ["hanken-grotesk", 700, "bold"],
  ["archivo", 700, "head"],
];

function unpacked(woff) {
  const tables = woff.readUInt16BE(12);
  const head = Buffer.alloc(12 + 16 * tables);
  woff.copy(head, 0, 4, 8);
  head.writeUInt16BE(tables, 4);
  const power = 2 ** Math.floor(Math.log2(tables));
  head.writeUInt16BE(16 * power, 6);
  head.writeUInt16BE(Math.log2(power), 8);
  head.writeUInt16BE(16 * (tables - power), 10);
  const parts = [head];
  let at = head.length;
  for (let i = 0; i < tables; i++) {
    const entry = 44 + 20 * i;
    const [offset, packed, length] = [4, 8, 12].map((n) => woff.readUInt32BE(entry + n));
    const raw = woff.subarray(offset, offset + packed);
    const table = packed < length ? inflateSync(raw) : raw;
    const row = 12 + 16 * i;
    woff.copy(head, row, entry, entry + 4);
    woff.copy(head, row + 4, entry + 16, entry + 20);
    head.writeUInt32BE(at, row + 8);
    head.writeUInt32BE(length, row + 12);
    parts.push(table, Buffer.alloc((4 - (length % 4)) % 4));
    at += length + ((4 - (length % 4)) % 4);
  }
  return Buffer.concat(parts);
}

mkdirSync(to, { recursive: true });
for (const [font, weight, name] of wanted) {
  for (const [part, end] of [["latin", ""], ["latin-ext", "-ext"]]) {
    writeFileSync(`${to}/${name}${end}.ttf`, unpacked(readFileSync(`web/node_modules/@fontsource/${font}/files/${font}-${part}-${weight}-normal.woff`)));
  }
}
