/** How a heater at full power still warms near its target: by so many °C in so many s, or no more. */
export const riseInWords = (riseC: number, s: number): string =>
  riseC > 0 ? `it rises ${riseC.toFixed(1)} °C in ${s} s` : 'it rises no more, even at full power';
