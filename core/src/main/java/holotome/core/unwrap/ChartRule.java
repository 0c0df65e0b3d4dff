package holotome.core.unwrap;

/**
 * What charts are to be like.
 *
 * @param stretch most of any chart by itself, {@link Stretch}, from 1
 * @param charts most of them, as far as that can be had; 0 for as few as the stretch allows
 * @param crease edges that turn by more are seams, in degrees; 180 for none
 * @param strips whether charts of turned bodies are laid as straight strips
 */
record ChartRule(double stretch, int charts, double crease, boolean strips) {}
