#!/usr/bin/env bash
# Runs a command that is asked to end when whoever started it ends, however that is: tethered.sh COMMAND...
set -u
starter=$PPID
"$@" &
child=$!
trap 'kill -INT "$child" 2>/dev/null' INT TERM HUP
while kill -0 "$child" 2>/dev/null; do
  kill -0 "$starter" 2>/dev/null || kill -INT "$child" 2>/dev/null
  sleep 0.5 &
  wait $! # unlike sleep alone, this lets a signal in at once
done
wait "$child"
