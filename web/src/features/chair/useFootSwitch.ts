import { useEffect, useRef, useState } from "react";

/** Where a foot switch that speaks WebSocket listens, on the computer of this browser. */
const address = "ws://127.0.0.1:8087";

const againMilliseconds = 2_000;
const kept = "obturon.foot-switch";

export type FootSwitch = "off" | "sought" | "connected";

interface Deeds {
  next: () => void;
  back: () => void;
  pause: () => void;
}

/** Takes steps by a foot switch; it is looked for once somebody has asked for it, and then always. */
export function useFootSwitch(deeds: Deeds, active: boolean): [FootSwitch, (wanted: boolean) => void] {
  const [wanted, setWanted] = useState(() => localStorage.getItem(kept) === "on");
  const [connected, setConnected] = useState(false);
  const latest = useRef(deeds);
  latest.current = deeds;
  useEffect(() => {
    if (!wanted || !active) return;
    let socket: WebSocket | undefined;
    let timer: ReturnType<typeof setTimeout> | undefined;
    let over = false;
    function connect() {
      socket = new WebSocket(address);
      socket.onopen = () => setConnected(true);
      socket.onmessage = (event) => {
        const pedal = String(event.data);
        if (pedal === "next" || pedal === "back" || pedal === "pause") latest.current[pedal]();
      };
      socket.onclose = () => {
        setConnected(false);
        if (!over) timer = setTimeout(connect, againMilliseconds);
      };
    }
    connect();
    return () => {
      over = true;
      clearTimeout(timer);
      socket?.close();
    };
  }, [wanted, active]);
  function want(on: boolean) {
    localStorage.setItem(kept, on ? "on" : "off");
    setWanted(on);
  }
  return [!wanted ? "off" : connected ? "connected" : "sought", want];
}
