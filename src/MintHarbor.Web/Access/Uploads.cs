using System.Text;
using MintHarbor.Core;
using MintHarbor.Media;

namespace MintHarbor.Web.Access;

/// <summary>What comes in as a file.</summary>
public static class Uploads
{
    public static async Task<byte[]> Bytes(this IFormFile file)
    {
        using var memory = new MemoryStream((int)file.Length);
        await file.CopyToAsync(memory);
        return memory.ToArray();
    }

    private const int MostText = 512 * 1024;

    /// <summary>A list or another text: UTF-8, or what an older spreadsheet writes.</summary>
    /// <param name="kind">What it should be: "a CSV file".</param>
    /// <exception cref="InputException">None, too large, or no text.</exception>
    public static async Task<string> Text(this IFormFile? file, string kind)
    {
        if (file is not { Length: > 0 })
            throw new InputException("no file was sent", "file", $"{kind} up to 512 KB");
        if (file.Length > MostText)
            throw new InputException("the file is too large", "file", $"{kind} up to 512 KB");
        var bytes = await file.Bytes();
        if (bytes.Contains((byte)0))
            throw new InputException("that file is not text", "file", $"{kind} in UTF-8 or Windows-1252");
        try
        {
            return new UTF8Encoding(false, throwOnInvalidBytes: true).GetString(bytes);
        }
        catch (DecoderFallbackException)
        {
            return CodePagesEncodingProvider.Instance.GetEncoding(1252)!.GetString(bytes);
        }
    }

    /// <summary>A photograph's bytes, read as such later on.</summary>
    /// <exception cref="InputException">Larger than a photograph may be.</exception>
    public static Task<byte[]> Photograph(this IFormFile file, string field) =>
        file.Length <= Photo.MostBytes
            ? file.Bytes()
            : throw new InputException(
                $"a photograph of {Say.Number(file.Length / 1048576.0, 1)} MB",
                field,
                $"up to {Photo.MostBytes >> 20} MB"
            );
}
