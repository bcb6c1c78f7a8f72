package org.orderlyferry.crossing;

import com.fasterxml.jackson.core.JsonLocation;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.core.JsonToken;
import com.fasterxml.jackson.dataformat.yaml.YAMLFactory;
import com.fasterxml.jackson.dataformat.yaml.YAMLParser;
import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.problem.Origin;
import org.yaml.snakeyaml.LoaderOptions;

/**
 * Reads a YAML file (YAML 1.1, the part that files of settings need) into values that know where they stand. Anchors,
 * aliases, tags and several documents are refused: one file says one thing, and says it once.
 */
final class YamlTree {

    private static final int DEEPEST = 20;
    private static final int LARGEST = 64 * 1024 * 1024;

    private final String file;
    private final String text;
    private final YAMLParser parser;

    private YamlTree(String file, String text, YAMLParser parser) {
        this.file = file;
        this.text = text;
        this.parser = parser;
    }

    /**
     * Reads a file's text.
     *
     * @throws MalformedFileException if it is no such file
     */
    static YamlValue.Mapping read(String file, String text) {
        LoaderOptions options = new LoaderOptions();
        options.setCodePointLimit(LARGEST);
        options.setNestingDepthLimit(DEEPEST);
        options.setAllowDuplicateKeys(false);
        try (YAMLParser parser =
                YAMLFactory.builder().loaderOptions(options).build().createParser(text)) {
            return new YamlTree(file, text, parser).root();
        } catch (JsonProcessingException e) {
            JsonLocation at = e.getLocation();
            throw at(
                    file,
                    at == null ? 1 : Math.max(1, at.getLineNr()),
                    at == null ? 1 : Math.max(1, at.getColumnNr()),
                    "isn't YAML: "
                            + String.valueOf(e.getOriginalMessage())
                                    .lines()
                                    .findFirst()
                                    .orElse(""));
        } catch (IOException e) {
            throw at(file, 1, 1, "isn't YAML: " + e.getMessage());
        }
    }

    /** What is wrong at a place of a file. */
    static MalformedFileException at(String file, int line, int column, String why) {
        return new MalformedFileException(new Origin("", file, line, true), "column " + column + ": " + why);
    }

    private YamlValue.Mapping root() throws IOException {
        if (parser.nextToken() == null) {
            throw at(file, 1, 1, "the file is empty");
        }
        YamlValue value = value();
        if (parser.nextToken() != null) {
            throw refused("a second document begins here; a crossing is one");
        }
        if (value instanceof YamlValue.Mapping mapping) {
            return mapping;
        }
        throw at(file, value.line(), value.column(), "a crossing is a mapping of keys to values");
    }

    private MalformedFileException refused(String why) {
        return at(file, line(), column(), why);
    }

    private int line() {
        return parser.currentTokenLocation().getLineNr();
    }

    private int column() {
        return parser.currentTokenLocation().getColumnNr();
    }

    private YamlValue value() throws IOException {
        if (parser.isCurrentAlias() || parser.getObjectId() != null || parser.getTypeId() != null) {
            throw refused("anchors, aliases and tags aren't read here; write the value itself");
        }
        JsonToken token = parser.currentToken();
        return switch (token) {
            case START_OBJECT -> mapping();
            case START_ARRAY -> sequence();
            case VALUE_NULL -> new YamlValue.Scalar(parser.getText(), true, line(), column());
            default -> new YamlValue.Scalar(parser.getText(), false, line(), column());
        };
    }

    private YamlValue sequence() throws IOException {
        int line = line();
        int column = column();
        List<YamlValue> values = new ArrayList<>();
        while (parser.nextToken() != JsonToken.END_ARRAY) {
            values.add(value());
        }
        return new YamlValue.Sequence(values, line, column);
    }

    private YamlValue.Mapping mapping() throws IOException {
        int line = line();
        int column = column();
        boolean flow = charAt(parser.currentTokenLocation().getCharOffset()) == '{';
        Map<String, YamlValue.Entry> entries = new LinkedHashMap<>();
        while (parser.nextToken() != JsonToken.END_OBJECT) {
            String key = parser.currentName();
            int keyLine = line();
            int keyColumn = column();
            parser.nextToken();
            YamlValue value = value();
            if (entries.put(key, new YamlValue.Entry(key, keyLine, keyColumn, value)) != null) {
                throw at(file, keyLine, keyColumn, "the key " + key + " stands here twice");
            }
        }
        return new YamlValue.Mapping(entries, line, column, flow);
    }

    private char charAt(long offset) {
        return offset >= 0 && offset < text.length() ? text.charAt((int) offset) : ' ';
    }
}
