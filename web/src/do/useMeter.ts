import { useEffect, useRef, useState } from "react";
import { client, type MeterView } from "../service/client";
import { useJobId } from "../service/job";

/** The simulated meter: a stream of readings, screws to turn, a tone that rises with the reading. */
export function useMeter(antenna: string, on: boolean, sound: boolean) {
  const jobId = useJobId();
  const [shown, show] = useState<MeterView | null>(null);
  const tone = useRef<{ at: AudioContext; voice: OscillatorNode; gain: GainNode } | null>(null);
  useEffect(() => {
    if (!on) return;
    const stream = new EventSource(`/api/jobs/${jobId}/antennas/${antenna}/meter/stream`);
    stream.onmessage = (e) => show(JSON.parse(e.data) as MeterView);
    return () => {
      stream.close();
      show(null);
    };
  }, [on, antenna, jobId]);
  useEffect(() => {
    if (!on || !sound) return;
    const at = new AudioContext();
    const voice = at.createOscillator();
    const gain = at.createGain();
    gain.gain.value = 0.06;
    voice.connect(gain).connect(at.destination);
    voice.start();
    tone.current = { at, voice, gain };
    return () => {
      tone.current = null;
      voice.stop();
      at.close();
    };
  }, [on, sound]);
  useEffect(() => {
    if (shown && tone.current)
      tone.current.voice.frequency.setTargetAtTime(
        shown.tone_hz,
        tone.current.at.currentTime,
        0.05,
      );
  }, [shown]);
  const turn = async (axis: "azimuth" | "elevation" | "skew", by: number) => {
    const { data } = await client.POST("/api/jobs/{job_id}/antennas/{row_id}/meter", {
      params: { path: { job_id: jobId, row_id: antenna } },
      body: { axis, by },
    });
    if (data) show(data as MeterView);
  };
  return { shown, turn };
}
