using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using MintHarbor.Media;

namespace MintHarbor.Web.Pages;

[AllowAnonymous, IgnoreAntiforgeryToken]
public sealed class ProblemModel : PageModel
{
    [FromQuery]
    public int Code { get; set; }
    public string Title { get; private set; } = "";
    public string Says { get; private set; } = "";

    public void OnGet() => Fill();

    public void OnPost() => Fill();

    private void Fill() =>
        (Title, Says) = Code switch
        {
            404 => ("Not here", "There is no such page, or it is not yours to see."),
            403 => ("Not open to you", "Your part in this course does not include that page."),
            400 => (
                "The form could not be read",
                $"It may have stood open too long, or a file in it is too large (accepted: {Photo.Accepted}). "
                    + "Nothing of it was taken. Go back, reload, and send it again."
            ),
            413 => ("Too large", $"Nothing of it was taken. Accepted: {Photo.Accepted}."),
            409 => ("Changed in the meantime", "Somebody else changed this. Go back and look at their version."),
            429 => ("Too often", "That was asked too often from here. Wait some minutes; nothing of it was done."),
            _ => (
                "Something failed here",
                "It is written down for whoever runs this server. What was sent with it may not be kept: look before you send it again."
            ),
        };
}
