// Makes the tables beside it. Cron starts come from croner 11.0.1 (npm), an implementation of its own; what clocks show
// as they change, and working days, are found by brute force: every minute and every day is asked. To make them again:
//   cd /tmp && npm install croner@11.0.1 && cp …/make-tables.mjs . && node make-tables.mjs <this folder>
// A line is: zone | rule | year | starts | CRC-32 of all starts as epoch minutes joined by blanks | the first three.
import { Cron } from 'croner';
import { writeFileSync } from 'node:fs';
import { crc32 } from 'node:zlib';

const folder = process.argv[2];
const zones = ['Europe/Helsinki', 'America/Santiago', 'Australia/Lord_Howe'];
const expressions = [
  '30 2 * * *', '15 3 * * *', '0 0 * * *', '5,35 1-3 * * *', '*/20 * * * *', '0 0,6,12,18 * * mon-fri', '10 22 * jan,jul-sep sat,sun',
  '0 6 L * *', '0 6 LW * *', '45 4 15W * *', '45 4 1W * *', '0 5 * * fri#3', '0 5 * * sunL', '0 12 1,15 * mon', '0 0 29 2 *',
  '7,20,33 3,4 * * 2', '30 23 31 * *',
];

function line(zone, rule, year, starts) {
  const minutes = starts.map((at) => at / 60000);
  const first = starts.slice(0, 3).map((at) => new Date(at).toISOString().slice(0, 16) + 'Z').join(' ');
  return `${zone} | ${rule} | ${year} | ${starts.length} | ${crc32(minutes.join(' ')).toString(16)} | ${first}`;
}

function byYear(zone, rule, starts) {
  const lines = [];
  for (let year = 2020; year < 2030; year++)
    lines.push(line(zone, rule, year, starts.filter((at) => new Date(at).getUTCFullYear() === year)));
  return lines;
}

const lines = [];
for (const zone of zones)
  for (const expression of expressions) {
    const cron = new Cron(expression, { timezone: zone, fixedTimeRule: 'no-wildcard' });
    const starts = [];
    let at = new Date(Date.UTC(2020, 0, 1) - 1);
    for (;;) {
      at = cron.nextRun(at);
      if (at === null || at.getTime() >= Date.UTC(2030, 0, 1)) break;
      starts.push(at.getTime());
    }
    lines.push(...byYear(zone, expression, starts));
  }
writeFileSync(folder + '/cron.txt', lines.join('\n') + '\n');

// What the clock shows, asked minute by minute: a start wherever it shows the time, so never or twice at a change.
const shown = [];
for (const zone of zones) {
  const clock = new Intl.DateTimeFormat('en-GB', { timeZone: zone, hour: '2-digit', minute: '2-digit', hourCycle: 'h23' });
  for (const wanted of ['02:30', '03:30', '00:30', '01:45', '23:30']) {
    const starts = [];
    for (let at = Date.UTC(2020, 0, 1); at < Date.UTC(2030, 0, 1); at += 15 * 60000)
      if (clock.format(at) === wanted) starts.push(at);
    shown.push(...byYear(zone, wanted, starts));
  }
}
writeFileSync(folder + '/as-shown.txt', shown.join('\n') + '\n');

// Working days: neither Saturday, Sunday nor one of these, listed by walking every day. A holiday on 6 January and 1 May.
const days = [];
const off = (day) => [0, 6].includes(day.getUTCDay()) || ['01-06', '05-01', '12-24'].includes(day.toISOString().slice(5, 10));
for (let year = 2020; year < 2030; year++)
  for (let month = 0; month < 12; month++) {
    const working = [];
    for (let day = new Date(Date.UTC(year, month, 1)); day.getUTCMonth() === month; day.setUTCDate(day.getUTCDate() + 1))
      if (!off(day)) working.push(day.getUTCDate());
    days.push(`${year}-${String(month + 1).padStart(2, '0')} | ${working.join(' ')}`);
  }
writeFileSync(folder + '/working-days.txt', days.join('\n') + '\n');
