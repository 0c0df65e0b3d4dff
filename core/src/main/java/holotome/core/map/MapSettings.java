package holotome.core.map;

/**
 * What the rules of maps go by beside the Scan.
 *
 * @param reach how far from a place it is looked for what hides it, and through it for its other
 *     side; in base units, above 0
 * @param rays cast from each texel for that, shared out among its samples
 * @param isFine whether whole numbers are stored in 16 bits rather than in 8
 * @param mask which attribute of the Scan {@link MapKind#MASK} shows; null for none
 */
public record MapSettings(double reach, int rays, boolean isFine, String mask) {}
