import { useEffect, useRef, useState } from "react";

const againMilliseconds = 2_000;

/** Whether a device on the computer of this browser is looked for, and answers. */
export type Device = "off" | "sought" | "connected";

/** Hears what a device says that speaks WebSocket at an address, for as long as it is wanted. */
export function useDevice(address: string, wanted: boolean, heard: (text: string) => void): Device {
  const [connected, setConnected] = useState(false);
  const latest = useRef(heard);
  latest.current = heard;
  useEffect(() => {
    if (!wanted) return;
    let socket: WebSocket | undefined;
    let timer: ReturnType<typeof setTimeout> | undefined;
    let over = false;
    function connect() {
      socket = new WebSocket(address);
      socket.onopen = () => setConnected(true);
      socket.onmessage = (event) => latest.current(String(event.data));
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
  }, [address, wanted]);
  return !wanted ? "off" : connected ? "connected" : "sought";
}
