import { expose, transfer } from 'comlink';
import { keepWeather, weather, weatherHash, type Weathered } from '@rammer/core/earth/weather/weatherLift';
import type { AnyEditBody } from '@rammer/core/level/edits/index';
import type { Weather } from '@rammer/core/level/objects';
import type { Grid } from '@rammer/core/level/tiles';

const api = {
  /** Weathers the ground below a lift; it is cancelled by ending the worker. */
  weather(lift: Weather, below: Float32Array, grid: Grid, onProgress: (done: number) => void): { made: Weathered; hash: string } {
    const made = weather(lift, below, grid, (done) => {
      onProgress(done);
      return true;
    })!;
    return transfer({ made, hash: weatherHash(lift, below, grid) }, [made.moved.buffer, made.scour.buffer, made.settle.buffer, made.runoff.buffer]);
  },

  /** The edit that keeps it. @param tiles the lift's own as they are now */
  keep(lift: Weather, made: Weathered, hash: string, grid: Grid, tiles: Map<string, Int32Array>): AnyEditBody {
    return keepWeather(lift, made, hash, grid, tiles);
  },
};

export type WeatherWorker = typeof api;
expose(api);
