/** Only one user may hold a machine's link, in whichever window; undefined when another does. */
export async function holdLink(machineId: string): Promise<(() => void) | undefined> {
  return new Promise((decided) => {
    void navigator.locks.request(`link:${machineId}`, { ifAvailable: true }, (lock) => {
      if (!lock) return decided(undefined);
      return new Promise<void>((letGo) => decided(letGo));
    });
  });
}
