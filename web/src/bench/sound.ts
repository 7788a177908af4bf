/** Short tones for a loud room; nothing is heard before the page was touched once, as browsers want it. */
let context: AudioContext | undefined;

export function tone(what: 'steady' | 'recorded' | 'wrong'): void {
  try {
    context ??= new AudioContext();
    const oscillator = context.createOscillator();
    const gain = context.createGain();
    oscillator.frequency.value = { steady: 660, recorded: 990, wrong: 220 }[what];
    gain.gain.setValueAtTime(0.25, context.currentTime);
    gain.gain.exponentialRampToValueAtTime(0.001, context.currentTime + 0.25);
    oscillator.connect(gain).connect(context.destination);
    oscillator.start();
    oscillator.stop(context.currentTime + 0.26);
  } catch {
    // A machine without a loudspeaker still records.
  }
}
