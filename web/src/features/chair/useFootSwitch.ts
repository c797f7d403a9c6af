import { useState } from "react";
import { type Device, useDevice } from "@/features/device/useDevice";

/** Where a foot switch that speaks WebSocket listens, on the computer of this browser. */
const address = "ws://127.0.0.1:8087";

const kept = "obturon.foot-switch";

interface Deeds {
  next: () => void;
  back: () => void;
  pause: () => void;
}

/** Takes steps by a foot switch; it is looked for once somebody has asked for it, and then always. */
export function useFootSwitch(deeds: Deeds, active: boolean): [Device, (wanted: boolean) => void] {
  const [wanted, setWanted] = useState(() => localStorage.getItem(kept) === "on");
  const device = useDevice(address, wanted && active, (pedal) => {
    if (pedal === "next" || pedal === "back" || pedal === "pause") deeds[pedal]();
  });
  function want(on: boolean) {
    localStorage.setItem(kept, on ? "on" : "off");
    setWanted(on);
  }
  return [wanted ? device : "off", want];
}
