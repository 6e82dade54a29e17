/** What work takes: by the clock, and of the processor in all threads. */

export interface Taken {
  readonly wallMs: number;
  readonly cpuMs: number;
}

export interface Moment {
  readonly at: number;
  readonly cpu: NodeJS.CpuUsage;
}

export const now = (): Moment => ({ at: performance.now(), cpu: process.cpuUsage() });

export const since = (from: Moment, to: Moment): Taken => ({
  wallMs: to.at - from.at,
  cpuMs: (to.cpu.user + to.cpu.system - from.cpu.user - from.cpu.system) / 1000,
});

/** Each figure against that of another. */
export const ratio = (one: Taken, other: Taken): { readonly wall: number; readonly cpu: number } => ({
  wall: one.wallMs / other.wallMs,
  cpu: one.cpuMs / other.cpuMs,
});
