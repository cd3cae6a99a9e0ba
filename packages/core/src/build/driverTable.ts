import { driverLines } from '../circuit/driverLine';
import type { Facts } from '../machine/facts';
import { cDefine, cInteger, cList, type CLine } from './cText';

/** By module: the serial line and address of its module; line 0 and a select pin; or −1 for one that hears nothing. */
export function driverTable(facts: Facts): CLine[] {
  const rows = driverLines(facts).map((line) => {
    if (!line) return cList([cInteger(-1), cInteger(0)]);
    return 'select' in line
      ? cList([cInteger(0), cInteger(line.select)])
      : cList([cInteger(line.line), cInteger(line.address)]);
  });
  return [cDefine('DRIVER_LINES', cList(rows), 'X, Y, Z, E, second Z, second E: line and address')];
}
