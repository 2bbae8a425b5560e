/** Every tolerance of the computations, with its unit and its reason, in one place. */

/** Relative (to the size of the face or edge): an analytic shape is accepted in a free-form one when no sample is further off.
 *  Writers that turn circles into rational B-splines reproduce them to rounding; 1e-5 leaves room for text with six digits. */
export const RECOGNITION_RELATIVE = 1e-5;

/** mm. However large the face, a deviation that a workshop would notice is never called a cylinder. */
export const RECOGNITION_MAX = 0.005;

/** mm. Below this a deviation cannot be told from the six to nine digits that files carry. */
export const RECOGNITION_MIN = 1e-6;

/** Radians. Two axes nearer than this are parallel: 1 µm over 10 mm. */
export const PARALLEL_ANGLE = 1e-4;

/** Relative to the radius: how far two axes may be apart, or two radii differ, to be one hole. */
export const COAXIAL_RELATIVE = 1e-3;

/** Radians. The largest step between points along an arc as drawn, at any size. */
export const ARC_STEP = (6 * Math.PI) / 180;

/** Radians. What the kernel's mesher is asked for: it bounds the angle over two neighbouring segments, so arcs come out at half of it. */
export const MESH_ANGLE = 2 * ARC_STEP;

/** Relative to the diagonal of the part's box: the largest distance between an arc and its chord as drawn. */
export const MESH_CHORD_RELATIVE = 5e-4;

/** Relative: requested error of the adaptive integration of face areas. */
export const AREA_RELATIVE = 1e-6;

/** Relative: requested error of the adaptive integration of volumes. The kernel steers by the volume alone; on a torus
 *  1e-6 left the inertia 1.1e-5 off and on the demo valve 1.6e-4, while 1e-10 brings both below 1e-8. */
export const VOLUME_RELATIVE = 1e-10;

/** Radians. Neighbouring faces that meet at a smaller angle share a smooth (tangent) edge. */
export const SMOOTH_ANGLE = 0.01;
