declare module 'lottie-web/build/player/esm/lottie_light.min.js' {
  import type { LottiePlayer } from 'lottie-web';
  const player: LottiePlayer;
  export default player;
}
