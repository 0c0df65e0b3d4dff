package holotome.app;

import holotome.app.model.Home;
import holotome.app.model.Problems;
import holotome.app.model.Settings;
import holotome.app.window.Desk;
import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import javafx.animation.AnimationTimer;
import javafx.application.Application;
import javafx.application.Platform;
import javafx.scene.Scene;
import javafx.scene.image.PixelFormat;
import javafx.scene.image.WritableImage;
import javafx.scene.text.Font;
import javafx.stage.Stage;

/** The application: a window with the desk in it. */
public final class HolotomeApp extends Application {
  private static final String[] FONTS = {
    "IBMPlexSans-Regular", "IBMPlexSans-SemiBold", "IBMPlexMono-Regular", "IBMPlexMono-Medium"
  };

  private Desk desk;

  public HolotomeApp() {}

  @Override
  public void start(Stage window) {
    loadFonts();
    Home home = Home.ofUser();
    new Settings(home).speak();
    desk = new Desk(home);
    Problems.begin(home, desk.session()::fail);
    Scene scene = scene(desk, 1280, 800);
    window.setTitle("Holotome");
    window.setMinWidth(1024);
    window.setMinHeight(700);
    window.setScene(scene);
    window.setOnCloseRequest(
        e -> {
          e.consume();
          desk.leave(Platform::exit);
        });
    window.show();
    List<String> given = getParameters().getUnnamed();
    String picture = getParameters().getNamed().get("picture");
    if (given.contains("demo")) {
      if (picture == null) {
        desk.openDemoFirst();
      } else {
        desk.openDemo();
      }
    } else if (!given.isEmpty()) {
      desk.session().open(Path.of(given.getFirst()));
    }
    if (picture != null) {
      pictureWhenReady(Path.of(picture), given.isEmpty());
    }
  }

  /** A scene of the desk in the application's look. */
  static Scene scene(Desk desk, double width, double height) {
    Scene scene = new Scene(desk, width, height);
    scene.getStylesheets().add(HolotomeApp.class.getResource("film.css").toExternalForm());
    return scene;
  }

  /** Loads the fonts that ship with the application. */
  public static void loadFonts() {
    for (String f : FONTS) {
      Font.loadFont(HolotomeApp.class.getResourceAsStream("fonts/" + f + ".ttf"), 13);
    }
  }

  /** Saves a picture of the window once the work is open, measured and drawn; then leaves. */
  private void pictureWhenReady(Path file, boolean empty) {
    long[] since = {0};
    new AnimationTimer() {
      @Override
      public void handle(long now) {
        boolean failed = desk.session().failure() != null;
        boolean ready =
            empty
                || failed
                || desk.session().isOpen()
                    && !desk.session().jobs().isBusy()
                    && desk.session().insight() != null
                    && desk.isEveryPaneShown();
        if (!ready) {
          since[0] = 0;
        } else if (since[0] == 0) {
          since[0] = now;
        } else if (now - since[0] > 900_000_000L) {
          stop();
          try {
            savePicture(desk.getScene(), file);
          } catch (IOException e) {
            System.err.println("holotome: " + file + ": cannot be written: " + e.getMessage());
          }
          Platform.exit();
        }
      }
    }.start();
  }

  /** Saves a scene as PNG. */
  public static void savePicture(Scene scene, Path file) throws IOException {
    WritableImage shot = scene.snapshot(null);
    int w = (int) shot.getWidth();
    int h = (int) shot.getHeight();
    int[] pixels = new int[w * h];
    shot.getPixelReader().getPixels(0, 0, w, h, PixelFormat.getIntArgbInstance(), pixels, 0, w);
    BufferedImage image = new BufferedImage(w, h, BufferedImage.TYPE_INT_RGB);
    image.setRGB(0, 0, w, h, pixels, 0, w);
    if (file.toAbsolutePath().getParent() != null) {
      Files.createDirectories(file.toAbsolutePath().getParent());
    }
    javax.imageio.ImageIO.write(image, "png", file.toFile());
  }

  @Override
  public void stop() {
    if (desk != null) {
      desk.shutDown();
    }
    Problems.end();
  }

  public static void main(String[] arguments) {
    // What is written without asking for a language is for machines; words ask for theirs.
    Locale.setDefault(Locale.Category.FORMAT, Locale.ROOT);
    launch(HolotomeApp.class, arguments);
  }
}
