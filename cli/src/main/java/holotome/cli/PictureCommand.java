package holotome.cli;

import holotome.core.frame.Frame;
import holotome.core.image.Raster;
import holotome.core.io.Loaded;
import holotome.core.io.MeshReader;
import holotome.core.io.Pictures;
import holotome.core.io.SafeFiles;
import holotome.core.task.Failure;
import holotome.view.Renderer;
import holotome.view.camera.Camera;
import holotome.view.scene.Look;
import holotome.view.scene.Scene;
import java.nio.file.Path;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
    name = "picture",
    description = "Draws a mesh into a PNG.",
    mixinStandardHelpOptions = true)
final class PictureCommand implements Callable<Integer> {
  @Parameters(paramLabel = "FILE", description = "A mesh: ply, obj, stl or off.")
  private Path file;

  @Option(
      names = "--out",
      required = true,
      paramLabel = "PNG",
      description = "Where the picture goes.")
  private Path out;

  @Option(
      names = "--look",
      paramLabel = "L",
      description =
          "clay, colour, flat-colour, wire, facing (default: colour where there is any, else clay).")
  private String look;

  @Option(
      names = "--from",
      paramLabel = "DIRECTION",
      defaultValue = "askew",
      description = "front, right, back, left, top, bottom, askew (default ${DEFAULT-VALUE}).")
  private Camera.Direction from;

  @Option(
      names = "--size",
      paramLabel = "WxH",
      defaultValue = "1000x800",
      description = "In pixels (default ${DEFAULT-VALUE}).")
  private String size;

  @Override
  public Integer call() throws Exception {
    int[] wh = size();
    return Console.watched(
        work -> {
          Loaded loaded = MeshReader.read(file, work.part(0.7, "Reading"));
          Frame frame = loaded.frame();
          Scene scene = new Scene(loaded.mesh(), frame.toWork(), look(loaded), null, null, false);
          Camera camera =
              Camera.showing(frame.workBounds(loaded.mesh()), from, (double) wh[0] / wh[1]);
          Renderer.Picture p = new Renderer().drawSmooth(scene, camera, wh[0], wh[1]);
          SafeFiles.write(out, o -> Pictures.writePng(new Raster(wh[0], wh[1], p.pixels()), o));
          return 0;
        });
  }

  private Look look(Loaded loaded) {
    if (look == null) {
      return loaded.mesh().hasColour() ? Look.COLOUR : Look.CLAY;
    }
    try {
      return Look.valueOf(look.toUpperCase(java.util.Locale.ROOT).replace('-', '_'));
    } catch (IllegalArgumentException e) {
      throw Failure.usage("there is no look \"" + look + "\"");
    }
  }

  private int[] size() {
    String[] w = size.split("x");
    try {
      int[] pixels = {Integer.parseInt(w[0]), Integer.parseInt(w[1])};
      if (pixels[0] >= 1 && pixels[1] >= 1 && pixels[0] <= 8192 && pixels[1] <= 8192) {
        return pixels;
      }
    } catch (NumberFormatException | ArrayIndexOutOfBoundsException e) {
      // Said below, with the sizes that are out of range.
    }
    throw Failure.usage("the size must be WxH with 1 to 8192 pixels each, not \"" + size + "\"");
  }
}
