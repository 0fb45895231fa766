/* The player of Lottie files, for pages that hold one. */
import lottie from 'lottie-web/build/player/esm/lottie_light.min.js';

Object.assign(globalThis, { lottie });
