/** The stations, each fetched when it is first wanted. */
export const STATION_PAGES = {
  survey: async () => (await import('./stations/survey/SurveyStation')).SurveyStation,
  wiring: async () => (await import('./stations/wiring/WiringStation')).WiringStation,
  settings: async () => (await import('./stations/settings/SettingsStation')).SettingsStation,
  build: async () => (await import('./stations/build/BuildStation')).BuildStation,
  flash: async () => (await import('./stations/flash/FlashStation')).FlashStation,
  'bring-up': async () => (await import('./stations/bringup/BringUpStation')).BringUpStation,
  calibrate: async () => (await import('./stations/calibrate/CalibrateStation')).CalibrateStation,
  logbook: async () => (await import('./stations/logbook/LogbookStation')).LogbookStation,
};

const FETCHED_WITHIN_MS = 1000;

/** Fetches the other stations while nothing else is to be done: they are then there when the server is not. */
export function fetchStations(): void {
  const fetchAll = () => Object.values(STATION_PAGES).forEach((load) => void load().catch(() => undefined));
  // The first station is drawn before the others come.
  if ('requestIdleCallback' in window) requestIdleCallback(fetchAll, { timeout: FETCHED_WITHIN_MS });
  else setTimeout(fetchAll);
}
