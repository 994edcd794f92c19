/**
 * `npm run let-in`: a code for a device of the home network, asked of the program that runs on this machine, so that a machine without a
 * screen can let one in. `-- --may mark`, `act` or `all` says what the device may do; `PORT` says where the program listens.
 */
const port = process.env.PORT || "4747";
const at = process.argv.indexOf("--may");
const may = at < 0 ? "mark" : process.argv[at + 1];
const says = {
  mark: "read and mark",
  act: "read and mark, link, move and heat printers",
  all: "do all that this machine may: change what is kept, let others in",
};

function giveUp(sentence) {
  console.error(sentence);
  process.exit(1);
}

if (!(may in says)) giveUp(`--may is one of ${Object.keys(says).join(", ")}.`);
const answer = await fetch(`http://127.0.0.1:${port}/api/devices/code`, {
  method: "POST",
  headers: { "Content-Type": "application/json" },
  body: JSON.stringify({ may }),
}).catch(() => null);
if (!answer) giveUp(`No Cuchara answers on port ${port} of this machine. Start it first, or say which port: PORT=4747`);
const { code, untilMs, error } = await answer.json().catch(() => ({ error: {} }));
if (!answer.ok) giveUp(error?.message ?? `Port ${port} is used by another program.`);
console.log(`Code: ${code.slice(0, 4)} ${code.slice(4)}`);
console.log(`Good until ${new Date(untilMs).toLocaleTimeString()}, for one device. It may ${says[may]}.`);
console.log("Open Cuchara on the device by this machine's address; it asks for the code.");
