import { calibrate } from './simulate/calibrate.ts'
const n = Number(process.argv[2])
const base = { throws: 60, discs: 4, called: true, outings: 5, gusts: 0.6 }
for (const [w, d] of [['plain',{}],['1 m',{lostM:[1]}],['2 m',{lostM:[2]}],['3 m',{lostM:[3]}],['3 twice',{lostM:[3],notedM:[1.5]}],['1 half',{lostM:[1],notedM:[2]}],['0 noted2',{lostM:[0],notedM:[2]}],['half 2 m',{lostM:[0,2]}],['half 3',{lostM:[0,3]}],['half 3 twice',{lostM:[0,3],notedM:[1.5]}],['half 2 all noted',{lostM:[0,2], notedM:[1]}],['2 m, unnoted',{lostM:[2],notedM:[0]}]] as const) {
  const c = calibrate(w, {...base, ...d}, n, 5000)
  console.log(w.padEnd(9), 'side', c.held.side.map(v=>Math.round(100*v)).join('/'), 'diff', c.held.difference.map(v=>Math.round(100*v)).join('/'), 'orders', c.told.false, 'of', c.told.settled, 'due', c.told.due.toFixed(1), 'labels', c.labels.false, c.labels.settled, c.labels.due.toFixed(1), 'rms s', c.stabilityRms.toFixed(3))
}
