/** What this device keeps under a key. Shape: null for nothing, and for what cannot be read */
export function readStored<Value>(key: string): Value | null {
  try {
    return JSON.parse(localStorage.getItem(key) ?? 'null') as Value | null;
  } catch {
    return null;
  }
}
