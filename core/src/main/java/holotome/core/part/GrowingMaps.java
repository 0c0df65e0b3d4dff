package holotome.core.part;

import holotome.core.mesh.Mesh;

/**
 * Maps while they are baked: their texels come one after the other.
 *
 * @param cast that they are baked onto
 */
public record GrowingMaps(Mesh cast, Maps maps) {}
