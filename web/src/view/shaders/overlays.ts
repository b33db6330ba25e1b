/**
 * Overlays over the ground, each by its define: TOO_STEEP what is too steep, PICTURED a picture of the whole
 * level, CONTOURS lines of height, WIRES the edges of the triangles. They stand in the terrain's fragment
 * shader after the light, with `shaded` the colour so far and `upright`
 * the normal's y. Contours fade on ground so flat that they would only scribble.
 */
export const OVERLAYS_UNIFORMS = /* glsl */ `
uniform float uLimit;
#ifdef PICTURED
uniform sampler2D uPicture;
uniform vec2 uLevelSize;
#endif
uniform float uStep;
uniform float uSpacing;
`;

export const OVERLAYS_CODE = /* glsl */ `
#ifdef TOO_STEEP
  {
    float line = abs(fract(vPlace.y) - 0.5);
    float px = fwidth(vPlace.y) * 0.9;
    float degreesUp = degrees(acos(clamp(upright, 0.0, 1.0)));
    float over = smoothstep(uLimit - 0.6, uLimit + 0.6, degreesUp);
    float tick = (1.0 - smoothstep(px, px * 2.0, 0.5 - line)) * over;
    shaded = mix(shaded, mix(shaded, vec3(0.79, 0.545, 0.106), 0.42), over);
    shaded = mix(shaded, vec3(0.09, 0.13, 0.12), tick * 0.9);
  }
#endif
#ifdef PICTURED
  {
    // Texels stand for samples: the first and last lie on the level's rim.
    vec2 size = vec2(textureSize(uPicture, 0));
    vec4 p = texture(uPicture, (vPlace.xz / uLevelSize * (size - 1.0) + 0.5) / size);
    float stripe = abs(fract((vPlace.x + vPlace.z) * 0.55) - 0.5);
    float hatch = step(0.98, p.a) * (1.0 - smoothstep(0.13, 0.17, stripe));
    float light = 0.72 + 0.36 * dot(shaded, vec3(0.3, 0.59, 0.11));
    shaded = mix(shaded, p.rgb * light, p.a > 0.97 ? hatch * 0.9 + 0.12 : p.a);
  }
#endif
#ifdef CONTOURS
  {
    float at = vPlace.y / uStep;
    float w = max(fwidth(at), 1e-5);
    float off = abs(fract(at - 0.5) - 0.5);
    float fifth = abs(fract(at / 5.0 - 0.5) - 0.5) * 5.0;
    float line = max((1.0 - smoothstep(w * 0.5, w * 1.1, off)) * 0.5, 1.0 - smoothstep(w * 0.8, w * 1.5, fifth));
    shaded = mix(shaded, vec3(0.09, 0.13, 0.12), line * step(w, 0.7) * (1.0 - smoothstep(0.9950, 0.9992, upright)));
  }
#endif
#ifdef WIRES
  {
    vec2 at = vPlace.xz / uSpacing;
    vec2 w = max(fwidth(at), vec2(1e-5));
    vec2 off = abs(fract(at - 0.5) - 0.5);
    float diagonal = abs(fract(at.x - at.y - 0.5) - 0.5);
    float cross = max(1.0 - smoothstep(w.x * 0.5, w.x, off.x), 1.0 - smoothstep(w.y * 0.5, w.y, off.y));
    float line = max(cross, (1.0 - smoothstep((w.x + w.y) * 0.4, (w.x + w.y) * 0.8, diagonal)) * 0.6);
    shaded = mix(shaded, vec3(0.09, 0.13, 0.12), line * (1.0 - smoothstep(0.25, 0.6, max(w.x, w.y))) * 0.8);
  }
#endif
`;
