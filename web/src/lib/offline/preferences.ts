// Small things that a device remembers of how somebody likes to work. Where it remembers nothing, nothing is
// lost.

export function preferred(name: string): string | null {
  try {
    return localStorage.getItem(`jungoptic.${name}`);
  } catch {
    return null;
  }
}

export function prefer(name: string, value: string | null): void {
  try {
    if (value === null) localStorage.removeItem(`jungoptic.${name}`);
    else localStorage.setItem(`jungoptic.${name}`, value);
  } catch {
    // a private window, or full: it is chosen again next time
  }
}
