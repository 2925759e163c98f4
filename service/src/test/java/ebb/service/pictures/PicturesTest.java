package ebb.service.pictures;

import static org.assertj.core.api.Assertions.assertThat;

import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import javax.imageio.ImageIO;
import org.springframework.http.MediaType;
import org.springframework.util.unit.DataSize;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

public class PicturesTest {
  private Path home;
  private Pictures pictures;

  @BeforeMethod
  void open() throws IOException {
    home = Files.createTempDirectory(Files.createDirectories(Path.of("target")), "pictures");
    pictures = new Pictures(home, DataSize.ofKilobytes(64));
  }

  @DataProvider
  Object[][] kinds() {
    return new Object[][] {{"png", MediaType.IMAGE_PNG}, {"jpg", MediaType.IMAGE_JPEG}};
  }

  @Test(dataProvider = "kinds")
  public void aPictureIsKnownByWhatItHoldsAndNotByItsName(String kind, MediaType type)
      throws IOException {
    var file = picture(kind, 20);

    assertThat(pictures.amiss(file)).isEmpty();
    assertThat(Pictures.type(Files.move(file, home.resolve("x.gif")))).contains(type);
  }

  @Test
  public void aPictureIsKeptOnceUnderItsPrint() throws IOException {
    var file = picture("png", 20);
    var print = Pictures.print(file);

    pictures.keep(file, print);
    pictures.keep(file, print);

    assertThat(pictures.of(print))
        .hasValueSatisfying(kept -> assertThat(kept).hasSameBinaryContentAs(file));
    assertThat(Pictures.print(picture("png", 21))).isNotEqualTo(print);
  }

  @Test
  public void whatIsNoPrintFindsNothing() {
    assertThat(pictures.of(null)).isEmpty();
    assertThat(pictures.of("../../ebb.mv.db")).isEmpty();
    assertThat(pictures.of("0".repeat(64))).isEmpty();
  }

  @Test
  public void whatIsNoPictureIsRefusedInWords() throws IOException {
    var text = Files.writeString(home.resolve("1.jpg"), "not a picture");
    assertThat(pictures.amiss(text))
        .get()
        .extracting(Pictures.Amiss::what)
        .isEqualTo("It is no JPEG or PNG.");

    var whole = Files.readAllBytes(picture("png", 20));
    var cut = Files.write(home.resolve("2.png"), Arrays.copyOf(whole, 12));
    assertThat(pictures.amiss(cut))
        .get()
        .extracting(Pictures.Amiss::what)
        .isEqualTo("It is damaged.");

    assertThat(pictures.amiss(picture("png", 4_097)).orElseThrow().what()).contains("4,097 points");

    var large = Files.write(home.resolve("3.png"), new byte[65 * 1024]);
    assertThat(pictures.amiss(large).orElseThrow().remedy()).contains("ebb.largest-picture");
  }

  private Path picture(String kind, int width) throws IOException {
    var file = home.resolve(width + "." + kind);
    ImageIO.write(new BufferedImage(width, 5, BufferedImage.TYPE_BYTE_GRAY), kind, file.toFile());
    return file;
  }
}
