"""Geometric tolerances that several modules share, each with its reason, in millimetres."""

#: Two coordinates closer than this are one point: far below any machine's step, far above float noise at sheet size.
JOIN_MM = 1e-9

#: Curves that stand in for conics stay within this of them: a twentieth of the finest machine step in use.
CONIC_MM = 1e-4

#: Chords for measuring: small enough to vanish beside the hundredth of a millimetre that reports state.
EXACT_MM = 1e-4

#: Chords in a machine file that knows straight lines only. Together with half the diagonal of HP-GL's 0.025 mm grid
#: (0.0177 mm) it stays under 0.025 mm.
CHORD_MM = 0.007

#: Chords sent to a screen: under a fifth of a pixel at 20 pixels a millimetre.
DRAWING_MM = 0.01

#: Bulges below this are straight: the sagitta of a metre-long chord is then half a micrometre.
STRAIGHT_BULGE = 1e-6
