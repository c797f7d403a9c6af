// Packs the built front end beforehand, as tightly as it goes: precompress.mjs DIST.
import { readdirSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { brotliCompressSync, constants, gzipSync } from "node:zlib";

const worthIt = /\.(js|css|html|svg|json|map)$/; // fonts and pictures are packed already
const least = 1024; // bytes

const dist = process.argv[2];
for (const entry of readdirSync(dist, { recursive: true, withFileTypes: true })) {
  const path = join(entry.parentPath ?? entry.path, entry.name);
  if (!entry.isFile() || !worthIt.test(entry.name)) continue;
  const content = readFileSync(path);
  if (content.length < least) continue;
  writeFileSync(`${path}.br`, brotliCompressSync(content, { params: { [constants.BROTLI_PARAM_QUALITY]: 11 } }));
  writeFileSync(`${path}.gz`, gzipSync(content, { level: 9 }));
}
