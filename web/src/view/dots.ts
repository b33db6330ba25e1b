import { BufferAttribute, BufferGeometry, GLSL3, Points, ShaderMaterial } from 'three';

/**
 * The walk area as chalk dots with an ink shadow; ground that is not linked to the entry as oxide
 * hatching. Of two areas compared: dots where both come, open rings where only the first does, ochre
 * triangles where only the second does.
 */
export function dotsPoints(dots: Float32Array): Points {
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(new Float32Array((dots.length / 4) * 3), 3));
  geometry.setAttribute('dot', new BufferAttribute(dots, 4));
  geometry.setDrawRange(0, dots.length / 4);
  const material = new ShaderMaterial({
    glslVersion: GLSL3,
    uniforms: { uScale: { value: 1 }, uFlat: { value: 1 }, uRings: { value: dots.some((v, i) => i % 4 === 3 && v > 1.5) ? 1 : 0 } },
    vertexShader: /* glsl */ `
      in vec4 dot;
      out float vLinked;
      uniform float uScale;
      uniform float uFlat;
      void main() {
        vLinked = dot.w;
        gl_Position = projectionMatrix * viewMatrix * vec4(dot.x, dot.y + 0.12, dot.z, 1.0);
        gl_PointSize = clamp(uScale * 90.0 / gl_Position.w, 2.5, 7.0 * uScale);
        // Farther off every second, fourth, eighth dot each way is enough; the rest would run together.
        float near = gl_Position.w * uFlat;
        float step = near < 36.0 ? 1.0 : near < 75.0 ? 2.0 : near < 150.0 ? 4.0 : 8.0;
        if (mod(dot.x, step) + mod(dot.z, step) > 0.01) gl_Position = vec4(0.0, 0.0, 2.0, 1.0);
      }`,
    fragmentShader: /* glsl */ `
      precision highp float;
      in float vLinked;
      uniform float uRings;
      out vec4 outColour;
      void main() {
        vec2 p = gl_PointCoord * 2.0 - 1.0;
        if (vLinked > 1.5 && vLinked < 2.5) {
          if (p.y > 0.9 || abs(p.x) > (p.y + 1.0) * 0.5) discard;
          outColour = abs(p.x) > (p.y + 1.0) * 0.5 - 0.28 || p.y > 0.62 ? vec4(0.09, 0.13, 0.12, 1.0) : vec4(0.79, 0.545, 0.106, 1.0);
        } else if (vLinked > 0.5) {
          if (length(p) > 1.0 || (vLinked > 2.5 ? false : uRings > 0.5 && length(p) < 0.5)) discard;
          outColour = length(p) > 0.62 ? vec4(0.09, 0.13, 0.12, 1.0) : vec4(0.965, 0.968, 0.957, 1.0);
        } else {
          // Slanting strokes that run on from mark to mark.
          float stroke = mod(p.x + p.y + 2.0, 1.0);
          if (stroke > 0.42) discard;
          outColour = vec4(0.70, 0.25, 0.165, 1.0);
        }
      }`,
  });
  const points = new Points(geometry, material);
  points.frustumCulled = false;
  return points;
}
