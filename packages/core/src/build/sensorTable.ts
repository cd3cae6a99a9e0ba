import type { ThermistorPart } from '../parts/part';
import { thermistorOhms } from '../heat/thermistor';

export interface SensorRow {
  raw: number;
  /** Temperature in tenths of a degree. */
  deciC: number;
}

const LOWEST_C = -30;
const STEP_C = 10;

/**
 * ADC count against temperature, hottest first (lowest count), one row every 10 °C from −30 °C to the sensor's
 * limit and 20 °C beyond. The firmware reads between rows along straight lines.
 */
export function sensorTable(type: ThermistorPart, pullUpOhms: number, adcBits: number): SensorRow[] {
  const full = 2 ** adcBits - 1;
  const rows: SensorRow[] = [];
  for (let c = Math.ceil((type.max_c + 20) / STEP_C) * STEP_C; c >= LOWEST_C; c -= STEP_C) {
    const ohms = thermistorOhms(type, c);
    const raw = Math.round((full * ohms) / (ohms + pullUpOhms));
    if (raw > (rows.at(-1)?.raw ?? -1)) rows.push({ raw, deciC: c * 10 });
  }
  return rows;
}
