const hertz = { soon: [660], enough: [880, 880], late: [440, 440, 440] };
const length = 0.16; // seconds of a tone
const apart = 0.24;

let context: AudioContext | undefined;

/** One tone before an end, two at it, three low ones past it. A browser without sound stays silent. */
export function sound(what: keyof typeof hertz) {
  try {
    context ??= new AudioContext();
    const at = context.currentTime;
    hertz[what].forEach((pitch, n) => {
      if (!context) return;
      const tone = context.createOscillator();
      const loudness = context.createGain();
      tone.frequency.value = pitch;
      loudness.gain.value = 0.2;
      tone.connect(loudness).connect(context.destination);
      tone.start(at + n * apart);
      tone.stop(at + n * apart + length);
    });
  } catch {
    // the clock is still seen
  }
}
