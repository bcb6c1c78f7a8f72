package org.orderlyferry.place;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.orderlyferry.model.TableName;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;

/** An address says by what it begins with whose it is. */
class PlacesTest {

    @TempDir
    Path folder;

    @ParameterizedTest
    @CsvSource({
        "jdbc:h2:herbarium, jdbc",
        "JDBC:sqlite:x, jdbc",
        "mongodb://127.0.0.1/herbarium, mongodb",
        "HDFS+x://node/set, hdfs+x",
        "file:///tmp/loan.csv, file",
        "loan.csv, file",
        "/tmp/jdbc:x, file",
        "C:\\loan.csv, file",
        "c://loan.csv, file",
        "notes: loan.csv, file",
        "a b://loan.csv, file",
    })
    void itsScheme(String address, String scheme) {
        assertThat(PlaceAddress.of(address).scheme()).isEqualTo(scheme);
    }

    @Test
    void aPathMayBeAFilesUri() throws Exception {
        Path file = Files.writeString(folder.resolve("loan of 2031.csv"), "id\n1\n");
        try (Place place = Places.open(file.toUri().toString().replaceFirst("^file:/+", "file:///"))) {
            assertThat(place.tables()).isEqualTo(List.of(TableName.of("loan of 2031")));
        }
        for (String wrong : List.of("file:///%zz", "file://elsewhere/loan.csv", "file:///?query")) {
            assertThatThrownBy(() -> Places.open(wrong)).isInstanceOf(FerryException.class);
        }
    }

    @Test
    void nobodyIsAskedForAnAddressThatIsNobodys() {
        assertThatThrownBy(() -> Places.open("gopher://elsewhere/loan?password=secret"))
                .isInstanceOf(UsageException.class)
                .hasMessageContaining("begin with gopher:")
                .hasMessageNotContaining("secret");
        assertThatThrownBy(() -> Places.openTarget("gopher://elsewhere/loan")).isInstanceOf(UsageException.class);
        assertThatThrownBy(() -> Places.open(folder.resolve("nothing.csv")))
                .isInstanceOf(PlaceException.class)
                .hasMessageContaining("there is no such file");
    }

    @Test
    void aSecretInAnAddressIsStruckOutHoweverItsSystemWritesIt() {
        assertThat(PlaceAddress.of("jdbc:oracle:thin:keeper/m0ss/fern@//old:1521/garden"))
                .hasToString("jdbc:oracle:thin:keeper/***@//old:1521/garden");
        assertThat(PlaceAddress.of("jdbc:firebird://old/garden?user=KEEPER&password=m0ss"))
                .hasToString("jdbc:firebird://old/garden?user=KEEPER&password=***");
        assertThat(PlaceAddress.of("jdbc:oracle:thin:keeper/m0ss@old:1521:garden")
                        .leftOpen("SECRET"))
                .isEqualTo("jdbc:oracle:thin:keeper/${env:SECRET}@old:1521:garden");
        assertThat(PlaceAddress.of("jdbc:oracle:thin:keeper/${ask}@old:1521:garden")
                        .leftOpen("SECRET"))
                .isEqualTo("jdbc:oracle:thin:keeper/${ask}@old:1521:garden");
    }
}
