import { expose, transfer } from 'comlink';
import { weather, type Weathered } from '@rammer/core/earth/weather/weatherLift';
import type { Weather } from '@rammer/core/level/objects';
import type { Grid } from '@rammer/core/level/tiles';

const api = {
  /** Weathers the ground below a lift; it is cancelled by ending the worker. */
  weather(lift: Weather, below: Float32Array, grid: Grid, onProgress: (done: number) => void): Weathered {
    const made = weather(lift, below, grid, (done) => { onProgress(done); return true; })!;
    return transfer(made, [made.moved.buffer, made.scour.buffer, made.settle.buffer, made.runoff.buffer]);
  },
};

export type WeatherWorker = typeof api;
expose(api);
