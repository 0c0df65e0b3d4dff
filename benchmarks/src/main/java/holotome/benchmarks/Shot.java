package holotome.benchmarks;

import holotome.core.geometry.Similarity;
import holotome.core.mesh.Mesh;
import holotome.view.Renderer;
import holotome.view.camera.Camera;
import holotome.view.scene.Look;
import holotome.view.scene.Scene;
import java.awt.image.BufferedImage;
import java.nio.file.Files;
import java.nio.file.Path;
import javax.imageio.ImageIO;

/** Pictures for the page of figures. */
final class Shot {
  private static final int WIDTH = 960;
  private static final int HEIGHT = 720;

  /** How much closer than to see all of it. */
  private static final double CLOSER = 0.28;

  private Shot() {}

  /** The middle of a mesh, its edges drawn. */
  static void edges(Mesh mesh, String name) throws Exception {
    Camera camera =
        Camera.showing(mesh.bounds(), Camera.Direction.ASKEW, (double) WIDTH / HEIGHT)
            .closer(CLOSER, mesh.bounds().centre());
    Scene scene = new Scene(mesh, Similarity.IDENTITY, Look.WIRE, null, null, false);
    save(new Renderer().drawSmooth(scene, camera, WIDTH, HEIGHT), WIDTH, HEIGHT, name);
  }

  static void save(Renderer.Picture p, int width, int height, String name) throws Exception {
    String into = System.getProperty("holotome.pictures");
    if (into == null) {
      return;
    }
    Path dir = Files.createDirectories(Path.of(into));
    BufferedImage image = new BufferedImage(width, height, BufferedImage.TYPE_INT_RGB);
    image.setRGB(0, 0, width, height, p.pixels(), 0, width);
    ImageIO.write(image, "png", dir.resolve(name + ".png").toFile());
  }
}
