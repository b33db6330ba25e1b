import { Matrix4, Vector2, Vector3, Vector4, type IUniform } from 'three';

/** What every shader of the full picture shares; see `shaders/full/light`. */
export type FullUniforms = ReturnType<typeof fullUniforms>;

export const fullUniforms = () =>
  ({
    uShadow: { value: null },
    uShadowAt: { value: [0, 1, 2, 3].map(() => new Matrix4()) },
    uShadowTexel: { value: new Vector4(1, 1, 1, 1) },
    uTraced: { value: 0 },
    uSkyShadow: { value: null },
    uSkyAt: { value: [new Matrix4(), new Matrix4()] },
    uSkyTexel: { value: new Vector2(1, 1) },
    uSkyFrom: { value: new Vector3(0, 1, 0) },
    uSky: { value: Array.from({ length: 9 }, () => new Vector3()) },
    uSunHere: { value: new Vector3(1, 1, 1) },
    uAir: { value: new Vector3() },
    uAirAt: { value: new Vector3() },
    uPhase: { value: 0 },
    uTime: { value: 0 },
    uWind: { value: new Vector2() },
    uFade: { value: 1 },
    uAround: { value: null },
    uBehindSun: { value: null },
    uBehindSky: { value: null },
    uFarAway: { value: null },
  }) satisfies Record<string, IUniform>;
