// Beside a trial, in a process of its own so that the trial's own work does not count: asks a server for its health over and over, and
// adds up the memory of the server and of what it started. Arguments: base, process id. Ends with its standard input; prints what it saw.
import { readdirSync, readFileSync } from 'node:fs';

const [base, pid] = process.argv.slice(2);
const server = Number(pid);
const times = [];
let memory = 0;
let on = true;
process.stdin
  .on('end', () => {
    on = false;
  })
  .resume();

/** Resident bytes of the server's node processes; the database is not counted. */
function residentBytes() {
  const parents = new Map();
  for (const n of readdirSync('/proc')) {
    if (!/^\d+$/.test(n)) continue;
    try {
      const stat = readFileSync(`/proc/${n}/stat`, 'utf8');
      parents.set(Number(n), Number(stat.slice(stat.lastIndexOf(')') + 4).split(' ')[0]));
    } catch {
      /* gone */
    }
  }
  let sum = 0;
  for (const one of parents.keys()) {
    let p = one;
    while (p !== undefined && p !== server) p = parents.get(p);
    if (p === undefined) continue;
    try {
      if (/node/.test(readFileSync(`/proc/${one}/comm`, 'utf8'))) sum += Number(readFileSync(`/proc/${one}/statm`, 'utf8').split(' ')[1]) * 4096;
    } catch {
      /* gone */
    }
  }
  return sum;
}

let looked = 0;
while (on) {
  const from = performance.now();
  try {
    const answer = await fetch(`${base}/api/health`);
    times.push(answer.status === 200 ? performance.now() - from : 60_000);
    await answer.arrayBuffer();
  } catch {
    times.push(60_000);
  }
  if (performance.now() - looked > 150) {
    looked = performance.now();
    memory = Math.max(memory, residentBytes());
  }
  await new Promise((go) => setTimeout(go, 15));
}
times.sort((a, b) => a - b);
console.log(JSON.stringify({ p99: times[Math.floor((times.length - 1) * 0.99)] ?? 0, worst: times.at(-1) ?? 0, memory }));
process.exit(0);
