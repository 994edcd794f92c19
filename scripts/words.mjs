/** `npm run words`: every sentence that users meet, by room, with where it stands; those a reader would stumble over are counted last. */
import words from "./sentences.cjs";

const wanted = process.argv[2] ?? "";
const sentences = words.allSentences().filter(({ file, text }) => file.includes(wanted) || text.includes(wanted));
let room = "";
for (const one of sentences) {
  if (one.room !== room) {
    room = one.room;
    console.log(`\n${room}`);
  }
  console.log(`  ${one.file}:${one.line}  ${one.text}`);
}
const stumbling = sentences.map((one) => ({ ...one, at: words.stumbled(one.text) })).filter(({ at }) => at);
for (const { file, line, text, at } of stumbling)
  console.log(`\n? ${file}:${line}  “${at.words}” (say: ${at.instead})\n  ${text}`);
console.log(`\n${sentences.length} sentences, ${stumbling.length} to be said anew`);
