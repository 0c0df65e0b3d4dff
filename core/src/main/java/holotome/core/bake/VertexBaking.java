package holotome.core.bake;

import holotome.core.image.Image;
import holotome.core.image.LinearLight;
import holotome.core.map.Hit;
import holotome.core.map.MapKind;
import holotome.core.map.MapRule;
import holotome.core.map.MapRule.Values;
import holotome.core.map.MapSettings;
import holotome.core.map.MapSource;
import holotome.core.map.SkyRays;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Places;
import holotome.core.part.Maps;
import holotome.core.spatial.Bvh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.Arrays;
import java.util.List;

/**
 * Values for the vertices of a Cast, one a kind of map: colours as light, three floats a vertex,
 * else one.
 */
final class VertexBaking {
  private static final int GRAIN = 1 << 10;

  private VertexBaking() {}

  /** By a ray from each vertex; where it meets nothing, of the closest point. */
  static float[][] fromScan(
      Mesh scan, Mesh cast, List<MapKind> kinds, MapSettings settings, Work work) {
    Places.check(scan, cast);
    Bvh index = Bvh.of(scan, work.part(0.2, CoreWords.of("baking.indexing-the-scan")));
    float[] reach =
        Cage.of(cast, scan, index, work.part(0.1, CoreWords.of("work.making-the-cage")));
    MapSource source = new MapSource(scan, index, settings);
    Work readying = work.part(0.1, CoreWords.of("baking.getting-ready"));
    List<MapRule.Asking> asking =
        kinds.stream().map(k -> k.rule().asking(source, readying)).toList();
    Aim.Ground ground =
        new Aim.Ground(cast, null, Measures.vertexNormals(cast), reach, Along.SMOOTH, null);
    Bvh castIndex = Bvh.of(cast, Work.unwatched());
    float[][] out = new float[kinds.size()][];
    for (int k = 0; k < out.length; k++) {
      out[k] = new float[kinds.get(k).rule().channels() * cast.vertexCount()];
    }
    float footprint = (float) Math.sqrt(Measures.area(cast) / Math.max(1, cast.vertexCount()));
    Parallel.range(
        cast.vertexCount(),
        GRAIN,
        work.part(0.6, CoreWords.of("work.baking")),
        (from, to) -> {
          SkyRays rays = new SkyRays(source);
          List<MapRule.Taker> takers = asking.stream().map(a -> a.taker(rays)).toList();
          Aim aim = new Aim(ground);
          // Why rays miss is asked of pictures only.
          ScanRay ray = new ScanRay(scan, index, cast, castIndex, () -> null, -1);
          Hit hit = new Hit();
          hit.samples = 1;
          hit.footprint = footprint;
          float[] numbers = new float[8];
          double[] values = new double[4];
          for (int v = from; v < to; v++) {
            work.check();
            aim.atVertex(v, hit);
            hit.seed = v * 0x9e3779b1;
            if (ray.find(aim, hit)) {
              for (int k = 0; k < out.length; k++) {
                takers.get(k).take(hit, numbers, 0);
                takers.get(k).store(numbers, 0, values);
                put(kinds.get(k), values, out[k], v);
              }
            }
          }
        });
    return out;
  }

  private static void put(MapKind kind, double[] values, float[] out, int v) {
    if (kind.rule().values() == Values.COLOUR) {
      for (int c = 0; c < 3; c++) {
        out[3 * v + c] = (float) LinearLight.of(values[c]);
      }
    } else {
      out[v] = (float) values[0];
    }
  }

  /** From the pictures, at the mean of where a vertex's corners lie in them. */
  static float[][] fromMaps(Mesh cast, Maps maps, List<MapKind> kinds) {
    int[] tri = cast.triangles();
    int[] corners = cast.uv().corners();
    float[] uv = cast.uv().coords();
    int[] count = new int[cast.vertexCount()];
    float[][] out = new float[kinds.size()][];
    double[] light = new double[4];
    for (int k = 0; k < out.length; k++) {
      Image picture = maps.pictures().get(kinds.get(k));
      int n = kinds.get(k).rule().channels();
      out[k] = new float[n * cast.vertexCount()];
      Arrays.fill(count, 0);
      for (int c = 0; c < tri.length; c++) {
        double u = uv[2 * corners[c]] / (double) maps.columns();
        double v = uv[2 * corners[c] + 1] / (double) maps.rows();
        picture.light(u, v, Image.Wrap.CLAMP, light);
        count[tri[c]]++;
        for (int i = 0; i < n; i++) {
          out[k][n * tri[c] + i] += (float) light[i];
        }
      }
      for (int i = 0; i < out[k].length; i++) {
        out[k][i] /= Math.max(1, count[i / n]);
      }
    }
    return out;
  }
}
