using System.Globalization;
using CsvHelper;
using CsvHelper.Configuration;

namespace FirstCoat.Store.Readings;

/// <summary>Files of separated values as people save them: commas, semicolons or tabs, with or without a mark in
/// front.</summary>
internal static class CsvText
{
    public static CsvReader Read(string text) =>
        new(
            new StringReader(text.TrimStart('\uFEFF')),
            new CsvConfiguration(CultureInfo.InvariantCulture)
            {
                DetectDelimiter = true,
                DetectDelimiterValues = [",", ";", "\t"],
                BadDataFound = null,
                MissingFieldFound = null,
                TrimOptions = TrimOptions.Trim,
            }
        );
}
