#!/usr/bin/env bash
# Runs a command that is asked to end when whoever started it ends, however that is: tethered.sh COMMAND...
set -u
starter=$PPID
"$@" &
child=$!
# TERM: what bash starts in the background ignores INT.
trap 'kill -TERM "$child" 2>/dev/null' INT TERM HUP
while kill -0 "$child" 2>/dev/null; do
  kill -0 "$starter" 2>/dev/null || kill -TERM "$child" 2>/dev/null
  sleep 0.5 &
  wait $! # unlike sleep alone, this lets a signal in at once
done
wait "$child"
