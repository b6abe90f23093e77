import { OBJECTS_PER_ROW, ObjectState } from './object-texture';

/** Colours side by side in a row of the palette. */
export const PER_ROW = 256;

const lookUp = /* glsl */ `
uniform sampler2D objects;
uniform sampler2D palette;
in float object;
#ifndef POINTS
in float material;
#endif
int stateOf() {
  int number = int(object);
  return int(255.0 * texelFetch(objects, ivec2(number % ${OBJECTS_PER_ROW}, number / ${OBJECTS_PER_ROW}), 0).r + 0.5);
}
vec4 colourAt(int index, int row) {
  return texelFetch(palette, ivec2(index % ${PER_ROW}, 3 * (index / ${PER_ROW}) + row), 0);
}
`;
/** So much of its area the edges of a piece may cover before they fade. */
const MOST_INK = 0.4;
/** So far a unit normal of three bytes may be from the true one. */
const NORMAL_ERROR = (0.5 * Math.sqrt(3)) / 127;
/** Of faded objects so much of their edges' ink is left. */
const FADED_INK = 0.22;
const OUT_OF_SIGHT = 'gl_Position = vec4(2.0, 2.0, 2.0, 1.0);';

// Clips: graphics processors cut by planes whose distance each vertex tells. Where what is kept isn't convex, each vertex
// is transformed into the coordinates of every clip volume, whose sides are at 1 and −1; that is interpolated, because there are
// fewer vertices than px.
const clipExtension = /* glsl */ `
#ifdef PLANES
#extension GL_ANGLE_clip_cull_distance : require
#endif
`;
const clipVertex = /* glsl */ `
#if defined(PLANES) || defined(CLIPS)
uniform mat4 modelMatrix;
#ifdef PLANES
uniform vec4 planes[PLANES];
out highp float gl_ClipDistance[PLANES];
#endif
#ifdef CLIPS
uniform mat4 clipTo[CLIPS];
out vec3 spots[CLIPS];
#endif
void tellSpots(vec4 place) {
#ifdef PLANES
  for (int i = 0; i < PLANES; i++) gl_ClipDistance[i] = dot(planes[i], place);
#endif
#ifdef CLIPS
  for (int i = 0; i < CLIPS; i++) spots[i] = (clipTo[i] * place).xyz;
#endif
}
#define TELL_SPOT tellSpots(modelMatrix * vec4(position, 1.0));
#else
#define TELL_SPOT
#endif
`;
const clipFragment = /* glsl */ `
#ifdef CLIPS
uniform vec2 clipRule[CLIPS]; // the lowest that is inside along Z, and whether the inside is kept
in vec3 spots[CLIPS];
void clip() {
  for (int i = 0; i < CLIPS; i++) {
    vec3 own = spots[i];
    bool isInside = abs(own.x) <= 1.0 && abs(own.y) <= 1.0 && own.z <= 1.0 && own.z >= clipRule[i].x;
    if (isInside != (clipRule[i].y > 0.5)) discard;
  }
}
#define CLIP clip();
#else
#define CLIP
#endif
`;
const surfaceUniforms = /* glsl */ `${clipExtension}
precision highp float;
precision highp sampler2D;
uniform mat4 modelViewMatrix;
uniform mat4 projectionMatrix;
uniform bool isParallel;
uniform vec3 accent;
uniform vec3 teal;
in vec3 position;
in vec4 normal;
${lookUp}
${clipVertex}
vec3 marked(vec3 tint, int state) {
  if (state == ${ObjectState.picked}) return mix(tint, accent, 0.62);
  if (state == ${ObjectState.hovered}) return mix(tint, teal, 0.22);
  return tint;
}
`;
// Light stays with the viewer: it comes over the left shoulder, so that every view is lit alike.
const LIGHT = 'normalize(vec3(-0.4, 0.55, 0.75))';
const LIT = '0.46 + 0.44 * max(dot(n, light), 0.0) + 0.12 * n.y';

// Lit at the vertices: what is drawn most has the least to do at each px.
export const plainVertex = /* glsl */ `${surfaceUniforms}
uniform bool isLit;
uniform vec3 ground;
out vec3 tint;
void main() {
  int state = stateOf();
  if (state == ${ObjectState.hidden} || state == ${ObjectState.faded}) { ${OUT_OF_SIGHT} return; }
  vec4 seen = modelViewMatrix * vec4(position, 1.0);
  gl_Position = projectionMatrix * seen;
  TELL_SPOT
  tint = marked(isLit ? colourAt(int(material), 0).rgb : ground, state);
  if (!isLit) return;
  vec3 n = normalize(mat3(modelViewMatrix) * normal.xyz);
  if (dot(n, isParallel ? vec3(0.0, 0.0, 1.0) : -seen.xyz) < 0.0) n = -n;
  vec3 light = ${LIGHT};
  tint = min(tint * (${LIT}), vec3(1.0));
}`;
export const plainFragment = /* glsl */ `
precision highp float;
uniform float alpha;
in vec3 tint;
out vec4 colour;
${clipFragment}
void main() { CLIP colour = vec4(tint, alpha); }`;

export const finishedVertex = /* glsl */ `${surfaceUniforms}
flat out vec4 base;
flat out vec2 finish;
out vec3 facing;
out vec3 place;
void main() {
  int state = stateOf();
  if (state == ${ObjectState.hidden} || state == ${ObjectState.faded}) { ${OUT_OF_SIGHT} return; }
  int index = int(material);
  base = colourAt(index, 0);
  base.rgb = marked(base.rgb, state);
  finish = colourAt(index, 2).xy;
  facing = mat3(modelViewMatrix) * normal.xyz;
  vec4 seen = modelViewMatrix * vec4(position, 1.0);
  place = seen.xyz;
  gl_Position = projectionMatrix * seen;
  TELL_SPOT
}`;
// C. Schlick, "An inexpensive BRDF model for physically-based rendering", 1994, with the lobe of J. Blinn, 1977
export const finishedFragment = /* glsl */ `
precision highp float;
uniform bool isParallel;
flat in vec4 base;
flat in vec2 finish;
in vec3 facing;
in vec3 place;
out vec4 colour;
${clipFragment}
void main() {
  CLIP
  vec3 tint = base.rgb;
  vec3 sight = isParallel ? vec3(0.0, 0.0, 1.0) : normalize(-place);
  vec3 n = normalize(facing);
  if (dot(n, sight) < 0.0) n = -n;
  vec3 light = ${LIGHT};
  float lit = ${LIT};
  vec3 half_ = normalize(light + sight);
  float power = mix(180.0, 6.0, finish.y);
  float gloss = pow(max(dot(n, half_), 0.0), power) * (1.0 - 0.85 * finish.y);
  float rim = pow(1.0 - max(dot(n, sight), 0.0), 5.0);
  vec3 mirror = mix(vec3(0.04), tint, finish.x);
  vec3 shown = tint * lit * (1.0 - 0.45 * finish.x) + (mirror + (1.0 - mirror) * rim * 0.4) * (gloss * 1.6 + 0.28 * finish.x * (0.5 + 0.5 * n.y));
  colour = vec4(min(shown, vec3(1.0)), base.a);
}`;

// An edge is drawn where one of its faces is turned to the viewer and the other isn't; those of sharp edges always are.
export const edgeVertex = /* glsl */ `${clipExtension}
precision highp float;
precision highp sampler2D;
uniform mat4 modelViewMatrix;
uniform mat4 projectionMatrix;
uniform bool isParallel;
uniform vec4 ink;
uniform float ownColour;
uniform vec3 accent;
uniform vec3 teal;
in vec3 position;
in vec4 face;
in vec4 other;
in float density;
uniform vec2 frame;
flat out vec2 dashFrom;
uniform float unitsPerPx;
uniform float focus;
${lookUp}
${clipVertex}
flat out vec4 line;
flat out float isDrawn;
void main() {
  int state = stateOf();
  vec4 seen = modelViewMatrix * vec4(position, 1.0);
  vec3 sight = isParallel ? vec3(0.0, 0.0, 1.0) : -seen.xyz;
  float a = dot(mat3(modelViewMatrix) * face.xyz, sight);
  float b = dot(mat3(modelViewMatrix) * other.xyz, sight);
  // an edge is a contour where one of its faces is turned to the viewer and the other isn't; the stored normals are
  // rounded, so that nearly edge-on counts as both, and one end decides for the whole line
  float least = min(abs(a), abs(b)) / length(sight);
  bool isNoContour = a * b > 0.0;
  if (state == ${ObjectState.hidden} || (isNoContour && least > ${(3 * NORMAL_ERROR).toFixed(4)})) { ${OUT_OF_SIGHT} return; }
  isDrawn = isNoContour && least > ${NORMAL_ERROR.toFixed(4)} ? 0.0 : 1.0;
  line = vec4(mix(ink.rgb, colourAt(int(material), 1).rgb, ownColour), ink.a);
  // edges so dense that they would be one black are fainter
  float perPx = isParallel ? unitsPerPx : unitsPerPx * -seen.z / focus;
  line.a *= clamp(${MOST_INK.toFixed(2)} / (density * perPx), 0.0, 1.0);
  if (state == ${ObjectState.faded}) line.a *= ${FADED_INK.toFixed(2)};
  if (state == ${ObjectState.picked}) line = vec4(accent, 1.0);
  if (state == ${ObjectState.hovered}) line = vec4(teal, 1.0);
  gl_Position = projectionMatrix * seen;
  TELL_SPOT
  dashFrom = (0.5 + 0.5 * gl_Position.xy / gl_Position.w) * frame;
}`;
export const edgeFragment = /* glsl */ `
precision highp float;
flat in vec4 line;
flat in float isDrawn;
flat in vec2 dashFrom;
uniform float dash; // length of a dash and of a gap, px; 0 for a whole line
out vec4 colour;
${clipFragment}
void main() {
  if (isDrawn < 0.5) discard;
  CLIP
  if (dash > 0.0 && mod(distance(gl_FragCoord.xy, dashFrom), 2.0 * dash) > dash) discard;
  colour = line;
}`;

// Points are squares of one size, whatever their distance; what is pointed at is a little larger.
export const pointVertex = /* glsl */ `${clipExtension}
precision highp float;
precision highp sampler2D;
uniform mat4 modelViewMatrix;
uniform mat4 projectionMatrix;
uniform vec3 accent;
uniform vec3 teal;
uniform float side; // px
in vec3 position;
in vec4 tone;
${lookUp}
${clipVertex}
flat out vec3 tint;
void main() {
  int state = stateOf();
  if (state == ${ObjectState.hidden}) { ${OUT_OF_SIGHT} return; }
  gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0);
  TELL_SPOT
  tint = tone.rgb;
  gl_PointSize = side;
  if (state == ${ObjectState.faded}) gl_PointSize = 1.0;
  if (state == ${ObjectState.picked}) tint = mix(tint, accent, 0.62);
  if (state == ${ObjectState.hovered}) tint = mix(tint, teal, 0.3);
}`;
export const pointFragment = /* glsl */ `
precision highp float;
flat in vec3 tint;
out vec4 colour;
${clipFragment}
void main() { CLIP colour = vec4(tint, 1.0); }`;

// A cut through a solid, hatched in its material's own way.
export const capVertex = /* glsl */ `${clipExtension}
precision highp float;
precision highp sampler2D;
uniform mat4 modelViewMatrix;
uniform mat4 projectionMatrix;
uniform vec3 accent;
uniform vec3 teal;
in vec3 position;
${lookUp}
${clipVertex}
flat out vec3 tint;
flat out vec3 stroke; // the direction across its lines, and from one to the next, px
void main() {
  int state = stateOf();
  if (state == ${ObjectState.hidden} || state == ${ObjectState.faded}) { ${OUT_OF_SIGHT} return; }
  gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0);
  TELL_SPOT
  int index = int(material);
  tint = colourAt(index, 0).rgb;
  if (state == ${ObjectState.picked}) tint = mix(tint, accent, 0.62);
  if (state == ${ObjectState.hovered}) tint = mix(tint, teal, 0.3);
  float angle = 0.7854 + 0.5236 * float(index % 6);
  stroke = vec3(cos(angle), sin(angle), 5.0 + float(index % 4));
}`;
export const capFragment = /* glsl */ `
precision highp float;
uniform vec3 ground;
uniform vec4 ink;
uniform float hatchScale;
flat in vec3 tint;
flat in vec3 stroke;
out vec4 colour;
${clipFragment}
void main() {
  CLIP
  float across = dot(gl_FragCoord.xy, stroke.xy) / hatchScale;
  float isLine = step(mod(across, stroke.z), 1.0);
  colour = vec4(mix(mix(ground, tint, 0.3), ink.rgb, 0.75 * isLine), 1.0);
}`;
