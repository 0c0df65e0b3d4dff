package holotome.core.frame;

import holotome.core.geometry.Similarity;

/**
 * Coordinates that are kept under a name: a capture program's, a site grid.
 *
 * @param fromBase from a mesh's base coordinates to the frame's
 * @param unit metres to one unit of the frame; 0 where that is not known
 */
public record NamedFrame(String name, Similarity fromBase, double unit) {}
