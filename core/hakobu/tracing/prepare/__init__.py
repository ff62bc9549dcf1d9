"""Image preparation: crop, rotation, denoising, flat-field correction, inversion."""
