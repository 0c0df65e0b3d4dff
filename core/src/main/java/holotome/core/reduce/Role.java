package holotome.core.reduce;

import holotome.core.mesh.Mesh;
import holotome.core.part.Part;
import holotome.core.part.Workpiece;
import java.util.Set;

/** What a lighter mesh becomes. */
public enum Role {
  /** The mesh that is unwrapped, baked onto and written. */
  CAST,
  /** A lighter Scan in place of the one there was. */
  SCAN,
  /** A lighter copy in the same place, beside the full Scan. */
  STAND_IN;

  /** The stand-in's name as a part. */
  public static final Part<Mesh> BESIDE = Part.mesh("stand-in");

  Set<Part<?>> writes() {
    return switch (this) {
      case CAST -> Set.of(Part.CAST, Part.MAPS);
      case SCAN -> Set.of(Part.SCAN);
      case STAND_IN -> Set.of(BESIDE);
    };
  }

  Workpiece into(Workpiece in, Mesh mesh) {
    return switch (this) {
      case CAST -> in.withCast(mesh);
      case SCAN -> in.withScan(mesh);
      case STAND_IN -> in.with(BESIDE, mesh);
    };
  }
}
