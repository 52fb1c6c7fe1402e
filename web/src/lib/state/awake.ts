/** Keep the screen on while hands are wet, where the browser allows it (over https, or on this machine itself). */
export function keepAwake(): () => void {
  let lock: WakeLockSentinel | null = null;
  let left = false;
  async function hold(): Promise<void> {
    if (left || document.hidden || !('wakeLock' in navigator)) return;
    lock = await navigator.wakeLock.request('screen').catch(() => null);
    if (left) void lock?.release();
  }
  const again = () => void hold();
  document.addEventListener('visibilitychange', again);
  again();
  return () => {
    left = true;
    document.removeEventListener('visibilitychange', again);
    void lock?.release();
  };
}
