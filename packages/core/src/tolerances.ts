/** Every tolerance of the computations, with its unit and its reason, in one place. */

/**
 * Relative (to the size of the face or edge): an analytic shape is accepted in a free-form one when
 * no sample is further off.
 * Writers that turn circles into rational B-splines reproduce them to rounding; 1e-5 leaves room for text
 * with six digits. */
export const RECOGNITION_RELATIVE = 1e-5;

/** mm. However large the face, a deviation that a workshop would notice is never called a cylinder. */
export const RECOGNITION_MAX = 0.005;

/** mm. Below this a deviation cannot be told from the six to nine digits that files carry. */
export const RECOGNITION_MIN = 1e-6;

/** Radians. Two axes nearer than this are parallel: 1 µm over 10 mm. */
export const PARALLEL_ANGLE = 1e-4;

/**
 * Sine: what is turned about an axis leans no more than this against it. Ten times what counts as parallel:
 * files round what they derive.
 */
export const COAXIAL_ANGLE = PARALLEL_ANGLE * 10;

/** Cosine of the angle (8°) to a direction within which something runs along it. Common practice. */
export const LOOKS_ALONG = 0.99;

/**
 * Cosine (2.6°): directions of one thing before and after a change that are nearer than this
 * are one. Common practice.
 */
export const SAME_DIRECTION = 0.999;

/** Of a radius: what a mesh of a round wall may stand inside it without being another wall. */
export const INSIDE_WALL = 1e-3;

/** Relative to the radius: how far two axes may be apart, or two radii differ, to be one hole. */
export const COAXIAL_RELATIVE = 1e-3;

/** Radians. The largest step between points along an arc as drawn, at any size. */
export const ARC_STEP = (6 * Math.PI) / 180;

/**
 * Radians. What the kernel's mesher is asked for: it bounds the angle over two neighbouring segments, so arcs
 * come out at half of it.
 */
export const MESH_ANGLE = 2 * ARC_STEP;

/** Relative to the diagonal of the part's box: the largest distance between an arc and its chord as drawn. */
export const MESH_CHORD_RELATIVE = 5e-4;

/**
 * Relative to the diagonal of the part's box: the same for faces of spheres and tori, which
 * make outlines of their own.
 * Half a pixel where a sphere is fitted in a pane of 670 px height is 4.9e-4 of the diagonal of its box;
 * other shapes are fitted smaller.
 */
export const ROUND_CHORD_RELATIVE = 4e-4;

/** Relative: requested error of the adaptive integration of face areas. */
export const AREA_RELATIVE = 1e-6;

/**
 * Relative to a face's own extent in its parameters: a boundary that closes worse than this is not integrated
 * along. Files join edges within 1e-6 of their size and better; what does not close to 1e-5 is another curve
 * than it should be. */
export const CLOSES_WITHIN = 1e-5;

/** Relative: what quadrature may leave of an integral along a free curve; it is told as its bound. */
export const QUADRATURE_AGREES = 1e-11;

/**
 * Relative: less than this that halving does not lessen is the rounding of what is added up; more is a kink
 * that is still to be found.
 */
export const KINK_LEAVES = 1e-8;

/** Relative: the same of areas, whose integrand is no polynomial even on polynomial surfaces. */
export const AREA_AGREES = 1e-9;

/**
 * Relative to the range of a parameter: what runs within this of one value of it runs along it. Strips
 * between are still integrated, with few nodes.
 */
export const ALONG_PARAMETER = 1e-8;

/**
 * Relative to all that is added up: what rounding leaves of a sum of some hundred terms in double precision.
 */
export const SUM_ROUNDING = 1e-14;

/**
 * Relative: requested error of the adaptive integration of volumes. The kernel steers by the
 * volume alone; on a torus
 *  1e-6 left the inertia 1.1e-5 off and on the demo valve 1.6e-4, while 1e-10 brings both below 1e-8. */
export const VOLUME_RELATIVE = 1e-10;

/** Radians. Neighbouring faces that meet at a smaller angle share a smooth (tangent) edge. */
export const SMOOTH_ANGLE = 0.01;

/** Of a component of a unit vector: along an axis as far as files carry digits. */
export const ALONG_AXIS = 1e-9;

/** mm: positions nearer than this are the same within what files carry. */
export const SAME_POSITION = 1e-3;

/** Relative: sizes that differ less are the same. */
export const SAME_SIZE = 1e-6;

/**
 * Share of a triangle's depth range and of the drawing's size, below which something in front does not count.
 */
export const DEPTH_SLACK = 1e-6;

/**
 * Relative to its sides, twice the area of a triangle in the drawing's plane: less is edge on, and hides
 * nothing. Single precision leaves 1e-7.
 */
export const EDGE_ON = 1e-6;

/**
 * Of the drawing's size: a line this near to a triangle counts as inside, so that none slips
 * through between two triangles.
 */
export const INSIDE_SLACK = 1e-9;

/** Intervals nearer than this share of the segment are one. */
export const HIDDEN_GAP = 1e-7;

/** Sine of the angle under which two lines have one direction. */
export const DRAWN_PARALLEL = 1e-4;

/** mm: ends nearer than this are one. */
export const SAME_END = 1e-5;

/** Seen under less than this (sine of the angle), a circle is face on. */
export const FACE_ON = 1e-6;

/**
 * Relative to the box: vertices of different faces nearer than this are one. Faces share
 * no vertices in the mesh.
 */
export const WELD_RELATIVE = 1e-6;

/** Sine of the angle below which two planes count as parallel. */
export const PARALLEL_PLANES = 1e-9;

/** mm: axes nearer than this are one, as far as files carry digits. */
export const COAXIAL_EXACTLY = 1e-7;

/** 1 − cosine of the angle to the horizontal below which a cut is level. */
export const LEVEL_PLANE = 1e-9;

/**
 * Relative to the two lengths: a corner flatter than this is none. Wide of rounding, far below what is seen.
 */
export const STRAIGHT_CORNER = 1e-7;

/**
 * Share of a curve's run over which its direction at an end is taken: enough to tell curves apart that touch.
 */
export const NEAR_END = 1e-3;

/** Relative to the radius: the points of a meshed arc cut square lie on it to single precision. */
export const ON_CIRCLE = 1e-4;

/** How far from 1 the length of a stored normal may be. */
export const UNIT_LENGTH = 1e-6;

/** Relative difference below which two views look the same. */
export const SAME_VIEW = 1e-6;

/**
 * Below this length the horizontal of a view that looks straight up or down is not
 * known; the screen's is taken.
 */
export const AT_THE_POLE = 1e-9;

/** rad. A view this near to a pip is on it. */
export const ON_PIP = 1e-6;

/** mm: ends of curves nearer than this are one. */
export const CUT_JOINED = 1e-3;

/** mm: files whose own tolerance is coarse leave gaps up to this; they are joined and told. */
export const CUT_JOINED_COARSELY = 1e-2;

/** Relative to the extent of a cut: wider gaps are never joined, for they could be edges. */
export const CUT_JOINED_RELATIVE = 1e-4;

/** mm: the kernel works to 1e-7 mm, which of a smaller cut is too large a share to call anything exact. */
export const SMALLEST_CUT = 0.01;

/** mm: a planar face nearer than this to the plane lies in it. */
export const FACE_IN_PLANE = 1e-6;

/**
 * Of a step into a face from an edge in a plane: smaller rises are those of a face that stays in the plane.
 */
export const LEVEL_FACE = 1e-9;

/** mm: outlines that are off by less are exact: the kernel tells no places apart that are nearer. */
export const CUT_EXACT = 1e-7;

/** mm: ends of exact curves that meet within this meet: the kernel's own vertices are no better. */
export const CUT_MEETS = 1e-6;

/** mm: how far polylines may be from free curves. */
export const CUT_CHORD = 1e-4;

/** mm: lines and circles recognised in free curves that are nearer than this stand for them. */
export const CUT_RECOGNISED = 1e-4;

/** Relative: closed forms against the kernel's figures. */
export const SELF_TEST_WITHIN = 1e-6;

/** Relative: what a position in single precision may be off along all three axes, 2⁻²⁴·√3. */
export const SINGLE_PRECISION = 1.04e-7;

/**
 * A layer between a mesh and its shape is as thick as their distance at most, and a
 * little wider than the mesh.
 */
export const LAYER = 1.1;

/**
 * Relative: a volume that slits between faces leave more open than this is told within so much, and where.
 */
export const SLITS_TELL = 1e-6;

/**
 * A mesh's outline lies within the chord of the surface: a loop's area is off by no more than that times its
 * length, and rounding.
 */
export const AREA_ROUNDING = 1e-6;

/**
 * What is left of rounding after a few operations on numbers of the size of 1, or relative to those compared.
 */
export const ROUNDING = 1e-9;

/** Below this a number counts as nothing: it only keeps a division or a logarithm from failing. */
export const TINY = 1e-12;

/** rad. An arc of this much or more goes round. */
export const FULL_TURN = 2 * Math.PI - 1e-6;

/** Share of a curve's or segment's run: what is nearer to an end is the end. */
export const RUN_END = 1e-12;

/**
 * Relative to the size of a part: corners of exact boxes nearer to a face of the mesh's
 * box than this are on it.
 */
export const BOX_SNAP = 1e-6;

/**
 * Relative to the size of a model, and some for what lies near its origin: how far from a plane a point may
 * seem to be that lies in it, in single precision.
 */
export const FLUSH_RELATIVE = 5e-7;

/**
 * Sine of the angle of a torus to level below which its crown is looked at all round:
 * recognised axes are no better.
 */
export const LEVEL_TORUS = 1e-4;

/** Sine: a surface that leans by less is level, to rounding. */
export const LEVEL_PLACE = 1e-7;

/** Of a parameter, or of 1 where that is larger: steps for differences of slopes. */
export const SLOPE_STEP = 1e-6;

/** Relative to the depth of a hole: depths along its wall that differ by less are one. */
export const SAME_DEPTH = 1e-6;

/** mm: what is nearer to a solid's surface than the kernel can tell. */
export const ON_SURFACE = 1e-7;

/** mm: the least way into a face from an edge, to see where it leads. */
export const INWARDS_LEAST = 1e-4;

/** mm: a curve of a face that is this near to an edge in the plane is that edge. */
export const IS_THE_EDGE = 1e-3;

/** mm: a step on a face, short beside what a workshop makes round. */
export const SHORT_STEP = 1e-3;

/** mm: a box that may reach farther by no more is exact: what double precision and files carry. */
export const BOX_EXACT = 1e-9;

/** Sine of the angle to a direction below which it gives no direction of its own in the plane across. */
export const ALMOST_ALONG = 1e-6;

/** Relative to the largest entry: a smaller pivot makes a matrix singular. */
export const SINGULAR = 1e-14;

/** Sine of half the angle below which two orientations are mixed straight. */
export const STRAIGHT_MIX = 1e-9;

/** 1 − cosine: an orientation this near to another is the same. */
export const SAME_ORIENTATION = 1e-12;

/** rad. A cone that is flatter or steeper than this is a plane or a cylinder. */
export const CONE_LEAST = 1e-4;

/** Relative to the height of a hole: its ends nearer than this are one. */
export const HOLE_ENDS = 1e-4;

/** mm: the least tolerance of a line drawing. */
export const DRAWING_LEAST = 1e-4;

/**
 * Relative to the drawing: lines nearer than this lie on each other; and the share of that
 * below which a piece is none.
 */
export const DRAWN_NEAR = 1e-7;
export const DRAWN_NOTHING = 1e-3;

/** mm: what stands before a point by less is the point's own surface. */
export const IN_FRONT = 1e-6;

/** Parameters of the kernel's polylines: least curvature and least length, as its documentation proposes. */
export const KERNEL_CURVATURE = 1e-9;
export const KERNEL_LENGTH = 1e-7;

/** mm: smaller deviations are rounding, and are told as smaller than this. */
export const LEAST_DEVIATION = 1e-9;

/**
 * Relative to the usual size of a surface's parameter steps: smaller ones are those of a pole,
 * where there is no normal.
 */
export const POLE_RELATIVE = 1e-6;

/** mm: places nearer than this are one in measuring, where the file does not say how well it knows them. */
export const MEASURED_SAME = 1e-4;

/**
 * mm: what a file says of how well it knows its lengths is believed within these: below is rounding, above
 * nothing would be told apart.
 */
export const UNCERTAINTY_LEAST = 1e-8;
export const UNCERTAINTY_MOST = 0.1;

/** Relative to its radius: a ball that shrinks by less touches all that it will. */
export const BALL_SETTLED = 1e-6;

/** Relative to a solid: a ray that leaves a surface starts so far below it, so as not to meet it. */
export const BELOW_SURFACE = 1e-8;

/**
 * mm: what two solids have in common and is nowhere thicker counts as contact, not as a clash;
 * what files know of places.
 */
export const CLASH_LEAST = 1e-4;

/**
 * Of a common volume's mean thickness (twice its volume over its area): chord of the mesh that its thickest
 * place is sought on.
 */
export const CLASH_CHORD = 0.02;

/** Relative to its box: the finest chord that is asked of the kernel for a common volume. */
export const CLASH_CHORD_LEAST = 2e-5;

/** Relative: a common volume whose thickest place grows by less when it is sought further has been found. */
export const ROOM_SETTLED = 1e-7;

/**
 * mm: holes that are off by no more make up a pattern; finer than any hole is drilled to,
 * wide of what files carry.
 */
export const PATTERN_WITHIN = 0.01;

/** mm: a diameter this near to one of a table is that one. */
export const TABLE_DIAMETER = 0.005;

/** Relative to the volume under water: what floats is this near to lifting its weight. */
export const FLOATS_WITHIN = 1e-12;

/**
 * Relative to the model's size: the least height of the field. Nearer than that single precision on the
 * graphics card shows.
 */
export const NEAREST_FIELD = 1e-4;

/** Relative: distances and directions that a motion has left the same, by the digits that files carry. */
export const SAME_AFTER_MOTION = 1e-6;

/** Relative: areas and volumes of one shape, as two kernels tell them. */
export const ALIKE = 1e-5;

/** Relative to a length: what the same length may differ by when it is computed another way. */
export const COMPUTED_SAME = 1e-9;
