package holotome.core.map;

/**
 * Texels that lie side by side and were missed for one reason.
 *
 * @param texels how many
 * @param u where one of them lies in the texture, as near to their middle as any
 * @param triangle of the Cast there
 */
public record MissedPatch(Missed reason, int texels, float u, float v, int triangle) {}
